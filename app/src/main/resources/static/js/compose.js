/* A message that is being written is kept as it is typed, and once more when its page is left. */
(() => {
  'use strict';

  const PAUSE_MILLIS = 800;
  let timer = null;
  let unkept = null;

  const keep = async () => {
    clearTimeout(timer);
    const form = unkept;
    unkept = null;
    if (form) await schublade.ask(form.dataset.keeps, { method: 'POST', fields: new URLSearchParams(new FormData(form)) });
  };

  document.addEventListener('input', (event) => {
    const form = event.target.form;
    if (!form || !('keeps' in form.dataset)) return;
    unkept = form;
    clearTimeout(timer);
    timer = setTimeout(keep, PAUSE_MILLIS);
  });

  document.addEventListener('submit', (event) => {
    if (event.target !== unkept) return;
    clearTimeout(timer);
    unkept = null; // It is sent along.
  }, { capture: true });

  document.addEventListener('htmx:beforeRequest', keep);
  window.addEventListener('pagehide', keep);

  document.addEventListener('keydown', (event) => {
    const form = document.querySelector('form[data-keeps]');
    if (!form) return;
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      form.requestSubmit();
    } else if (event.key === 'Escape') {
      document.querySelector('.strip a[href="/outgoing"]')?.click();
    }
  });
})();
