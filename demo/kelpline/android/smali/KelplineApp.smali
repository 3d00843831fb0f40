# The application: what every screen shares. The build puts resource ids in the place of names.
.class public Lexample/kelpline/KelplineApp;
.super Landroid/app/Application;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Application;-><init>()V
    return-void
.end method

.method public onCreate()V
    .registers 2
    invoke-super {p0}, Landroid/app/Application;->onCreate()V
    const v0, @string/nav_timetable
    const v0, @string/nav_tickets
    const v0, @string/nav_alerts
    const v0, @string/nav_settings
    const v0, @string/action_back
    const v0, @color/surface
    const v0, @color/card
    const v0, @color/ink
    const v0, @color/ink_soft
    const v0, @color/primary
    const v0, @color/on_primary
    const v0, @color/primary_soft
    const v0, @color/on_primary_soft
    const v0, @color/outline
    const v0, @drawable/ic_ticket
    const v0, @drawable/ic_back
    const v0, @drawable/ic_bell
    const v0, @drawable/ic_gear
    const v0, @drawable/ic_ferry
    return-void
.end method
