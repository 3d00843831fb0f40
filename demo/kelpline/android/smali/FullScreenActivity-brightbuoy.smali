# Where Brightbuoy shows what fills the screen.
.class public Lcom/brightbuoy/ads/FullScreenActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method
