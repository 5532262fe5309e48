/* Listens to what the server tells of changes, and fetches anew what the page shows of them. */
(() => {
  'use strict';

  if (!document.querySelector('meta[name=csrf]')) return; // Nobody is logged in.

  const PAUSE_MILLIS = 300;
  let busy = false;
  let again = false;

  const refresh = async () => {
    if (busy) {
      again = true;
      return;
    }
    busy = true;
    again = false;
    document.dispatchEvent(new CustomEvent('mail-changed'));
    await schublade.refreshCabinet();
    setTimeout(() => {
      busy = false;
      if (again) refresh();
    }, PAUSE_MILLIS);
  };

  let greeted = false;
  const source = new EventSource('/live');
  source.addEventListener('changed', refresh);
  source.addEventListener('hello', () => {
    // After a break something may have been missed.
    if (greeted) refresh();
    greeted = true;
  });
  window.addEventListener('pagehide', () => source.close());
})();
