# The pass screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/PassActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_pass
    const v0, @string/pass_lead
    const v0, @string/pass_bullet_all
    const v0, @string/pass_bullet_guest
    const v0, @string/pass_bullet_ads
    const v0, @string/pass_month
    const v0, @string/pass_year
    const v0, @string/pass_saving
    const v0, @string/pass_price_month
    const v0, @string/pass_price_year
    const v0, @string/pass_terms
    const v0, @string/pass_continue
    const v0, @string/pass_restore
    const v0, @color/card
    const v0, @color/ink_soft
    const v0, @color/primary
    const v0, @color/on_primary
    const v0, @color/primary_soft
    const v0, @color/on_primary_soft
    const v0, @color/outline
    const v0, @color/badge
    const v0, @color/on_badge
    const v0, @color/on_time
    const v0, @drawable/ic_anchor
    const v0, @drawable/ic_check
    return-void
.end method
