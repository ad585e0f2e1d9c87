// Runs before the first paint: the system's setting, unless the person chose otherwise.
(() => {
  const chosen = localStorage.getItem("theme");
  const dark = chosen ? chosen === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.bsTheme = dark ? "dark" : "light";
})();
