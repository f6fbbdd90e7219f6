"""What the device keeps, as the page's own key opens it."""

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
