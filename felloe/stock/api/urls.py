from django.urls import path

from felloe.stock.api import views as v

urlpatterns = [
    path("stock", v.StockView.as_view(), name="stock"),
    path("stock/machine", v.MachineView.as_view(), name="stock-machine"),
    path("stock/parts", v.PartsView.as_view(), name="parts"),
    path("stock/parts/<uuid:part_id>", v.PartView.as_view(), name="part"),
    path("stock/parts/<uuid:part_id>/movements", v.MovementsView.as_view(), name="part-movements"),
    path("stock/orders", v.OrdersView.as_view(), name="orders"),
    path("stock/orders/<uuid:order_id>/receive", v.ReceiveView.as_view(), name="order-receive"),
    path("stock/orders/<uuid:order_id>/cancel", v.CancelView.as_view(), name="order-cancel"),
    path("stock/library.csv", v.LibraryView.as_view(), name="stock-library"),
    path("stock/library/preview", v.PreviewView.as_view(), name="stock-preview"),
    path("stock/library/import", v.ImportView.as_view(), name="stock-import"),
]
