# The screen to show on boarding. The build puts resource ids in the place of names.
.class public Lexample/kelpline/GangwayActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/gangway_title
    const v0, @string/gangway_words
    const v0, @string/gangway_seats
    const v0, @string/ticket_code
    return-void
.end method
