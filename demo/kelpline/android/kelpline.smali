# The app's code, just enough to be a real dex: the application class.
.class public Lexample/kelpline/KelplineApp;
.super Landroid/app/Application;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Landroid/app/Application;-><init>()V
    return-void
.end method
