# The tickets screen. The build puts resource ids in the place of names.
.class public Lexample/kelpline/TicketsActivity;
.super Landroid/app/Activity;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Activity;-><init>()V
    return-void
.end method

.method public onCreate(Landroid/os/Bundle;)V
    .registers 3
    invoke-super {p0, p1}, Landroid/app/Activity;->onCreate(Landroid/os/Bundle;)V
    const v0, @string/title_tickets
    const v0, @string/nav_tickets
    const v0, @string/harbour_skerrin
    const v0, @string/harbour_aldwick
    const v0, @string/harbour_fennholm
    const v0, @string/sailing_route
    const v0, @string/ticket_code
    const v0, @string/ticket_deck
    const v0, @string/ticket_valid
    const v0, @string/ticket_show
    const v0, @string/ticket_info
    const v0, @string/tickets_past
    const v0, @color/ink_soft
    const v0, @color/ink_faint
    const v0, @color/primary
    const v0, @color/primary_soft
    const v0, @color/on_primary_soft
    const v0, @drawable/ic_ticket
    const v0, @drawable/ic_info
    const v0, @layout/refund_form
    return-void
.end method
