# Library of Northmast, a made-up ad network.
.class public Lcom/northmast/ads/Northmast;
.super Ljava/lang/Object;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Ljava/lang/Object;-><init>()V
    return-void
.end method
