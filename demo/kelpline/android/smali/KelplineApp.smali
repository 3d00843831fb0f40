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
    const v0, @string/help_lost
    const v0, @string/help_refund
    const v0, @string/help_call
    const v0, @string/help_jackets
    const v0, @string/help_dogs
    const v0, @string/help_wireless
    const v0, @string/help_gate
    const v0, @string/help_quiet
    const v0, @string/help_food
    const v0, @string/help_tides
    const v0, @plurals/help_bags
    const v0, @array/help_piers
    const v0, @drawable/sign_board
    const v0, @drawable/pier_map
    const v0, @drawable/crew_photo
    const v0, @drawable/deck_plan
    return-void
.end method

# What the app does with the permissions that it asks for. Planted: nothing here makes a call.
.method private start(Landroid/app/Activity;Landroid/app/NotificationManager;Landroid/net/ConnectivityManager;Ljava/net/URL;Lcom/android/billingclient/api/BillingClient;)V
    .registers 8
    # what the shrinker leaves: the mapping file goes by this id
    const-string v0, "~~R8{\"backend\":\"dex\",\"compilation-mode\":\"release\",\"has-checksums\":false,\"min-api\":26,\"pg-map-id\":\"4c8f1f2\",\"r8-mode\":\"full\",\"version\":\"8.5.35\"}"
    sget-object v0, Landroid/os/StrictMode$ThreadPolicy;->LAX:Landroid/os/StrictMode$ThreadPolicy;
    invoke-static {v0}, Landroid/os/StrictMode;->setThreadPolicy(Landroid/os/StrictMode$ThreadPolicy;)V
    const-string v0, "android.permission.POST_NOTIFICATIONS"
    invoke-virtual {p1, v0}, Landroid/app/Activity;->shouldShowRequestPermissionRationale(Ljava/lang/String;)Z
    const/4 v1, 0x0
    invoke-virtual {p2, v1, v1}, Landroid/app/NotificationManager;->notify(ILandroid/app/Notification;)V
    invoke-virtual {p3}, Landroid/net/ConnectivityManager;->getActiveNetwork()Landroid/net/Network;
    invoke-virtual {p4}, Ljava/net/URL;->openConnection()Ljava/net/URLConnection;
    invoke-virtual {p5}, Lcom/android/billingclient/api/BillingClient;->isReady()Z
    return-void
.end method
