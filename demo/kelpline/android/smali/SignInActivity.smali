# The sign-in screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/SignInActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/signin_title
    const v0, @string/field_email
    const v0, @string/signin_code
    const v0, @string/signin_go
    const v0, @string/signin_wrong
    return-void
.end method
