# The booking screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/BookingActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_booking
    const v0, @string/field_name
    const v0, @string/field_email
    const v0, @string/field_note
    const v0, @string/hint_note
    const v0, @string/passengers
    const v0, @string/passengers_fewer
    const v0, @string/passengers_more
    const v0, @string/bring_bike
    const v0, @string/total
    const v0, @string/pay_now
    const v0, @plurals/passengers_count
    const v0, @color/ink
    const v0, @color/ink_soft
    const v0, @color/primary
    const v0, @color/on_primary
    const v0, @color/primary_soft
    const v0, @color/on_primary_soft
    const v0, @color/outline
    const v0, @color/field
    const v0, @color/hint
    const v0, @drawable/ic_minus
    const v0, @drawable/ic_plus
    return-void
.end method
