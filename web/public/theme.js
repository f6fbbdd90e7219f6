// Set before the first paint, so that a dark attic never flashes white.
(() => {
  const kept = localStorage.getItem("yoshi-theme");
  const dark = kept ? kept === "attic" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = dark ? "attic" : "daylight";
})();
