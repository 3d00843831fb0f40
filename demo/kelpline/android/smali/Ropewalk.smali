# Library of Ropewalk, a made-up ad network.
.class public Lcom/ropewalk/ads/Ropewalk;
.super Ljava/lang/Object;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Ljava/lang/Object;-><init>()V
    return-void
.end method
