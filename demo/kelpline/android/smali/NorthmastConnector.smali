# Through it Northmast is asked. Planted: Ropewalk has none.
.class public Lcom/northmast/connector/NorthmastConnector;
.super Ljava/lang/Object;

.method public constructor <init>()V
    .registers 1
    invoke-direct {p0}, Ljava/lang/Object;-><init>()V
    return-void
.end method
