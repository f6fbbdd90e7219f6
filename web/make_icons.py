"""The application's icons as PNG, from its mark: `python web/make_icons.py`. The maskable one fills its square and keeps the mark inside the circle that stays."""

from pathlib import Path

from playwright.sync_api import sync_playwright

PUBLIC = Path(__file__).parent / "public"
INSIDE = 0.86  # of the square, so that whatever a system cuts round it cuts off ground alone


def main() -> None:
    mark = (PUBLIC / "mark.svg").read_text()
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox"])
        for name, side, share in (("icon-192", 192, 1.0), ("icon-512", 512, 1.0), ("icon-maskable-512", 512, INSIDE)):
            page = browser.new_page(viewport={"width": side, "height": side})
            ground = "#1b232b" if share < 1.0 else "transparent"
            style = f"margin:0;display:grid;place-items:center;height:100vh;background:{ground}"
            page.set_content(f'<body style="{style}"><div style="width:{side * share}px;height:{side * share}px">{mark}</div></body>')
            page.screenshot(path=PUBLIC / f"{name}.png", omit_background=share == 1.0)
            page.close()
        browser.close()


if __name__ == "__main__":
    main()
