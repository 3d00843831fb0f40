# The timetable screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/TimetableActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_timetable
    const v0, @string/nav_timetable
    const v0, @string/from_label
    const v0, @string/to_label
    const v0, @string/harbour_skerrin
    const v0, @string/harbour_aldwick
    const v0, @string/today_date
    const v0, @string/notice_wind
    const v0, @string/status_on_time
    const v0, @string/status_late
    const v0, @string/status_full
    const v0, @plurals/seats_left
    const v0, @color/ink_soft
    const v0, @color/primary_soft
    const v0, @color/on_primary_soft
    const v0, @color/notice
    const v0, @color/notice_ink
    const v0, @color/on_time
    const v0, @color/late
    const v0, @drawable/ic_wind
    const v0, @drawable/ic_swap
    const v0, @drawable/ic_chevron
    return-void
.end method
