# The alerts screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/AlertsActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_alerts
    const v0, @string/nav_alerts
    const v0, @string/alert_late_title
    const v0, @string/alert_late_body
    const v0, @string/alert_winter_title
    const v0, @string/alert_winter_body
    const v0, @string/alert_cafe_title
    const v0, @string/alert_cafe_body
    const v0, @string/alerts_choose
    const v0, @color/ink_soft
    const v0, @color/primary
    const v0, @drawable/ic_clock
    const v0, @drawable/ic_wind
    const v0, @drawable/ic_close
    const v0, @drawable/ic_cup
    return-void
.end method
