// Set before the first paint, so that a dark attic never flashes white.
(() => {
  const kept = localStorage.getItem("yoshi-theme");
  const dark = matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = kept || (dark ? "attic" : "daylight");
})();
