# The sailing screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/SailingActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_sailing
    const v0, @string/harbour_skerrin
    const v0, @string/harbour_aldwick
    const v0, @string/harbour_fennholm
    const v0, @string/sailing_route
    const v0, @string/sailing_duration
    const v0, @string/sailing_boat
    const v0, @string/sailing_boarding
    const v0, @string/sailing_bikes
    const v0, @string/sailing_stops
    const v0, @string/book_this
    const v0, @string/add_alert
    const v0, @color/ink_soft
    const v0, @color/primary
    const v0, @color/sky
    const v0, @drawable/ic_clock
    const v0, @drawable/ic_check
    const v0, @drawable/ic_info
    const v0, @drawable/harbour
    const v0, @layout/widget_departures
    return-void
.end method
