"""Accounts on the screen: an invitation to a first job, a second factor, a shared tablet, who did what, a job handed on."""

import re
from typing import Any

from django.core import mail
from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice
from playwright.sync_api import Page, expect

from e2e.acts import enter, field, new_job
from e2e.conftest import PASSWORD
from e2e.device import drafts, names, on_device, saved
from tasks.queue import run_all

WORDS = "four words and a number 7"


def sign_in(page: Page, username: str, password: str = PASSWORD) -> None:
    page.get_by_label("name").fill(username)
    page.get_by_label("password").fill(password)
    page.get_by_role("button", name="Sign in").click()


def menu(page: Page, item: str) -> None:
    page.get_by_role("button", name=re.compile(", menu$")).click()
    page.get_by_role("menuitem", name=item).click()


def test_from_an_invitation_to_a_first_job_and_out_again(open_page: Any, settings: Any) -> None:
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    hale = open_page("hale")
    hale.goto("/shop")
    hale.get_by_text("Invite somebody").click()
    hale.get_by_label("name shown").fill("A. Newby")
    hale.get_by_label("name for signing in").fill("newby")
    hale.get_by_label("mail address").fill("newby@shop.test")
    hale.get_by_role("button", name="Make the invitation").click()
    expect(hale.get_by_text("on its way to newby@shop.test")).to_be_visible()
    run_all()
    [link] = re.findall(r"http://\S+(/password#\S+)", str(mail.outbox[0].body))
    newby = hale.context.browser.new_context(base_url=hale.url.rsplit("/", 1)[0]).new_page()
    newby.goto(link)
    newby.get_by_label("new password").fill(WORDS)
    newby.get_by_role("button", name="Keep it").click()
    newby.get_by_role("link", name="Sign in").click()
    sign_in(newby, "newby", WORDS)
    new_job(newby, "The first one")
    enter(newby, "refrigerant", "R-410A")
    saved(newby)
    hale.goto("/shop/trail")
    expect(hale.get_by_role("row", name=re.compile("A. Newby.*made a job"))).to_be_visible()
    hale.goto("/shop")
    row = hale.get_by_role("listitem").filter(has_text="A. Newby")
    row.get_by_role("button", name="End this account").click()
    expect(row.get_by_text("may not sign in any more")).to_be_visible()
    newby.goto("/")
    expect(newby.get_by_role("button", name="Sign in")).to_be_visible()
    newby.context.close()


def test_what_only_the_owner_may_do_asks_who_it_is_after_a_while(open_page: Any) -> None:
    page = open_page("hale")
    page.goto("/shop")
    from accounts.models import SignedIn  # noqa: PLC0415 - after Django is set up
    from accounts.sessions import SessionStore  # noqa: PLC0415

    store = SessionStore(SignedIn.objects.get(person__username="hale").session_key)
    store["confirmed"] = 0.0
    store.save()
    page.get_by_label("role of J. Pell").select_option("lead")
    page.get_by_label("your password").fill("wrong")
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_text("That is not your password.")).to_be_visible()
    page.get_by_label("your password").fill(PASSWORD)
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_text("pell · all jobs, and hands them on")).to_be_visible()


def test_a_second_factor_from_setting_it_up_to_signing_in_with_it(open_page: Any) -> None:
    page = open_page()
    page.goto("/account")
    page.get_by_label("your password").fill(PASSWORD)
    page.get_by_role("button", name="Set it up").click()
    shown = page.get_by_alt_text("The secret, to be scanned by the app")
    expect(shown).to_be_visible()
    assert shown.evaluate("picture => picture.naturalWidth > 100")
    device = TOTPDevice.objects.get()
    page.get_by_label("code").fill(f"{totp(device.bin_key):06d}")
    page.get_by_role("button", name="Turn it on").click()
    expect(page.get_by_text("Write these down")).to_be_visible()
    paper = page.locator("li").filter(has_text=re.compile(r"^\w{5}-\w{5}$")).first.inner_text()
    menu(page, "Sign out")
    sign_in(page, "orrin")
    page.get_by_label("code").fill(paper)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("button", name="New job").wait_for()


def test_a_shared_tablet_keeps_each_persons_entries_their_own(open_page: Any) -> None:
    """Typed without signal, signed out without signal, another person in between: nothing readable, nothing under a wrong name."""
    page = open_page(service_workers="allow")
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    new_job(page, "Attic without signal")
    enter(page, "refrigerant", "R-410A")
    saved(page)
    job = page.url
    page.context.set_offline(True)
    enter(page, "included_length", "25 ft")
    on_device(page, "25 ft")
    assert len(drafts(page)) >= 1
    menu(page, "Sign out")
    expect(page.get_by_text("of yours wait")).to_be_visible()
    page.get_by_role("button", name="Keep them until I sign in here again").click()
    expect(page.get_by_role("heading", name="No answer from the server")).to_be_visible()
    assert "device:key" not in names(page)
    assert any("/draft/" in name for name in names(page))
    page.reload()
    expect(page.get_by_text("Nobody is signed in on this device")).to_be_visible()
    page.context.set_offline(False)
    page.get_by_role("button", name="Try now").click()
    sign_in(page, "vesk")
    page.get_by_role("button", name="New job").wait_for()
    page.goto(job)
    expect(field(page, "refrigerant")).to_have_value("R-410A")
    expect(field(page, "included_length")).to_have_value("")
    menu(page, "Sign out")
    sign_in(page, "orrin")
    page.get_by_role("button", name="New job").wait_for()
    page.goto(job)
    expect(field(page, "included_length")).to_have_value("25 ft")
    saved(page)
    from jobs.models import Change, Job  # noqa: PLC0415 - after Django is set up

    code = re.findall(r"/job/(\w+)", job)[0]
    [change] = [c for c in Change.objects.filter(job=Job.objects.get(code=code)) if "25 ft" in str(c.payload)]
    assert change.by.username == "orrin"


def test_two_tabs_agree_after_another_person_signed_in(open_page: Any) -> None:
    first = open_page()
    new_job(first, "Two tabs")
    enter(first, "refrigerant", "R-410A")
    saved(first)
    second = first.context.new_page()
    second.goto("/")
    second.get_by_role("button", name="New job").wait_for()
    menu(second, "Sign out")
    sign_in(second, "vesk")
    second.get_by_role("button", name="New job").wait_for()
    expect(first.get_by_role("button", name="T. Vesk, menu")).to_be_visible()


def test_clearing_what_waits_takes_it_away(open_page: Any) -> None:
    page = open_page(service_workers="allow")
    page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")
    new_job(page, "To be cleared")
    page.context.set_offline(True)
    enter(page, "included_length", "26 ft")
    on_device(page, "26 ft")
    menu(page, "Sign out")
    page.get_by_role("button", name="Clear them for good").click()
    expect(page.get_by_role("heading", name="No answer from the server")).to_be_visible()
    assert not any("/draft/" in name for name in names(page))


def test_the_lead_hands_a_job_on(open_page: Any) -> None:
    orrin, vesk, pell = open_page(), open_page("vesk"), open_page("pell")
    new_job(orrin, "Handed on")
    path = re.sub(r"^https?://[^/]+", "", orrin.url)
    pell.goto(path)
    expect(pell.get_by_text("This job is somebody else's")).to_be_visible()
    vesk.goto(path)
    vesk.get_by_role("button", name="Hand this job on").first.click()
    expect(vesk.get_by_text("Named on it now: M. Orrin.")).to_be_visible()
    vesk.get_by_label("to", exact=True).select_option("pell")
    vesk.get_by_role("button", name="Hand it on").click()
    expect(vesk.get_by_role("dialog")).to_be_hidden()
    pell.goto(path)
    pell.get_by_role("heading", name="Identify").wait_for()
    orrin.goto(path)
    expect(orrin.get_by_text("This job is somebody else's")).to_be_visible()
