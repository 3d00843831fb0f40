# Library of Brightbuoy, a made-up ad network.
.class public Lcom/brightbuoy/ads/Brightbuoy;
.super Ljava/lang/Object;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Ljava/lang/Object;-><init>()V
    return-void
.end method
