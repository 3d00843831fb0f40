# The settings screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/SettingsActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_settings
    const v0, @string/nav_settings
    const v0, @string/set_language
    const v0, @string/set_theme
    const v0, @string/set_theme_value
    const v0, @string/set_push
    const v0, @string/set_push_value
    const v0, @string/set_offline
    const v0, @string/set_ads
    const v0, @string/set_about
    const v0, @string/set_sign_out
    const v0, @string/language_name
    const v0, @color/card
    const v0, @color/ink_soft
    const v0, @color/primary
    const v0, @color/danger
    const v0, @drawable/ic_moon
    const v0, @drawable/ic_bell
    const v0, @drawable/ic_gear
    const v0, @drawable/ic_globe
    const v0, @drawable/ic_info
    const v0, @drawable/ic_chevron
    return-void
.end method
