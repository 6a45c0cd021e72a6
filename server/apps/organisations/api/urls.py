"""Addresses of the organisations app."""

from django.urls import path

from apps.organisations.api import audit_views, link_views, people_views, views

urlpatterns = [
    path("session/", views.SessionView.as_view(), name="session"),
    path("account/", views.AccountView.as_view(), name="account"),
    path("account/password/", views.AccountPasswordView.as_view(), name="account-password"),
    path("account/leave/", views.LeaveView.as_view(), name="account-leave"),
    path("account/sign-ins/", views.SignInsView.as_view(), name="sign-ins"),
    path("account/sign-ins/<uuid:sign_in_id>/", views.SignInView.as_view(), name="sign-in"),
    path("links/look/", link_views.LookView.as_view(), name="link-look"),
    path("links/join/", link_views.JoinView.as_view(), name="link-join"),
    path("links/password/", link_views.NewPasswordView.as_view(), name="link-password"),
    path("links/", people_views.InvitationsView.as_view(), name="links"),
    path("links/<uuid:link_id>/", people_views.InvitationView.as_view(), name="link"),
    path("people/", people_views.PeopleView.as_view(), name="people"),
    path("people/<uuid:member_id>/", people_views.PersonView.as_view(), name="person"),
    path(
        "people/<uuid:member_id>/sign-ins/", people_views.PersonSignInsView.as_view(), name="person-sign-ins"
    ),
    path(
        "people/<uuid:member_id>/password-link/",
        people_views.PasswordLinkView.as_view(),
        name="person-password-link",
    ),
    path(
        "people/<uuid:member_id>/competences/",
        people_views.CompetencesView.as_view(),
        name="person-competences",
    ),
    path("competences/<uuid:competence_id>/", people_views.CompetenceView.as_view(), name="competence"),
    path("contacts/", people_views.ContactsView.as_view(), name="contacts"),
    path("contacts/<uuid:contact_id>/", people_views.ContactView.as_view(), name="contact"),
    path("audit/", audit_views.AuditView.as_view(), name="audit"),
]
