"""What the device keeps, as the page's own key opens it."""

from datetime import datetime

from playwright.sync_api import Page

OPENED = """async () => {
  const db = await new Promise((done) => { const open = indexedDB.open('keyval-store'); open.onsuccess = () => done(open.result); });
  const store = db.transaction('keyval').objectStore('keyval');
  const ask = (request) => new Promise((done) => { request.onsuccess = () => done(request.result); });
  const [names, values] = await Promise.all([ask(store.getAllKeys()), ask(store.getAll())]);
  db.close();
  const key = values[names.indexOf('device:key')];
  const found = [];
  for (const [n, name] of names.entries()) {
    if (!name.includes('/draft/') || !key || !name.startsWith(key.owner + '/')) continue;
    const { iv, data } = values[n];
    found.push(new TextDecoder().decode(await crypto.subtle.decrypt({ name: 'AES-GCM', iv }, key.cipher, data)));
  }
  return found;
}"""
RAW = """async () => new Promise((done) => { const open = indexedDB.open('keyval-store'); open.onsuccess = () => {
  const all = open.result.transaction('keyval').objectStore('keyval').getAllKeys();
  all.onsuccess = () => { done(all.result); open.result.close(); }; }; })"""

SET_BY_HAND = """() => {
  if (globalThis.setTheClock) return;
  const True = Date;
  const ahead = True.now() - performance.now();
  let stands = Number(sessionStorage.getItem('stands')) || True.now();
  globalThis.Date = class extends True {
    constructor(...given) { given.length ? super(...given) : super(stands); }
    static now() { return stands; }
  };
  performance.now = () => stands - ahead;
  globalThis.setTheClock = (to) => sessionStorage.setItem('stands', String(stands = to));
  const get = Headers.prototype.get;
  Headers.prototype.get = function (name) { return name.toLowerCase() === 'date' ? null : get.call(this, name); };
}"""


def set_by_hand(page: Page) -> None:
    """From here the test says what time it is on the page, and the office does not: hours of work go by in seconds."""
    page.add_init_script(f"({SET_BY_HAND})()")
    page.evaluate(SET_BY_HAND)


def set_the_clock(page: Page, to: datetime) -> None:
    """It is this time on a page whose clock is set by hand, until it is set again."""
    page.evaluate("to => setTheClock(to)", to.timestamp() * 1000)


def drafts(page: Page) -> list[str]:
    """The entries that wait, of who is signed in, as they were written."""
    found: list[str] = page.evaluate(OPENED)
    return found


def names(page: Page) -> list[str]:
    """The names of all rows, whoever's."""
    found: list[str] = page.evaluate(RAW)
    return found


def saved(page: Page) -> None:
    """Wait until the device holds no unsent entry."""
    for _ in range(450):
        if not drafts(page):
            return
        page.wait_for_timeout(100)
    raise AssertionError("entries are still waiting on the device")


def on_device(page: Page, text: str) -> None:
    """Wait until the device itself holds what was typed: a reload in the same instant would outrun its disk."""
    for _ in range(450):
        if any(f'"{text}"' in draft for draft in drafts(page)):
            return
        page.wait_for_timeout(100)
    raise AssertionError(f"{text} is not on the device")
