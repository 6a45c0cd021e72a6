"""Addresses of the work app."""

from django.urls import path

from apps.work.api import views

WORK = "sites/<uuid:site_id>/work/"
urlpatterns = [
    path(WORK, views.SiteWorkView.as_view(), name="site-work"),
    path(WORK + "settings/", views.WorkSettingsView.as_view(), name="work-settings"),
    path(WORK + "look-ups/", views.LookUpsView.as_view(), name="look-ups"),
    path(WORK + "look-ups/<uuid:look_up_id>/", views.LookUpView.as_view(), name="look-up"),
    path(WORK + "to-look-up/", views.ToLookUpView.as_view(), name="to-look-up"),
    path("sites/<uuid:site_id>/areas/", views.SiteAreasView.as_view(), name="site-areas"),
    path("plants/<uuid:plant_id>/before-work/", views.BeforeWorkView.as_view(), name="before-work"),
    path(WORK + "plan/", views.YearPlanView.as_view(), name="year-plan"),
    path(WORK + "moves/", views.MovesView.as_view(), name="moved-jobs"),
    path(WORK + "budget/", views.BudgetView.as_view(), name="work-budget"),
    path(WORK + "planting/", views.PlantingView.as_view(), name="work-planting"),
    path(WORK + "calendar.ics", views.CalendarView.as_view(), name="work-calendar"),
    path(WORK + "sheets.pdf", views.WorkSheetsView.as_view(), name="work-sheets"),
    path(WORK + "tender.zip", views.TenderView.as_view(), name="work-tender"),
]
