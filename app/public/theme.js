// Before the first paint, so that a dark room is not flashed white.
(function () {
  var kept = null;
  try {
    kept = localStorage.getItem('ordle-theme');
  } catch {
    // Storage refused: follow the system.
  }
  var dark = kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
})();
