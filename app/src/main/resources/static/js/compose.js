/* A message that is being written is kept as it is typed, first by the browser and then by the server, and once more when its page is left. */
(() => {
  'use strict';

  const PAUSE_MILLIS = 800;
  const AWAY_MILLIS = 3000;
  let away = false;
  let timer = null;
  let unkept = null;

  /** Where the browser keeps what is typed until the server has it: it may be out of reach, or the browser may end. */
  const nameOf = (form) => `schublade-writing-${document.querySelector('[data-person]').dataset.person}-${form.dataset.keeps}`;
  const fieldsOf = (form) => [...new FormData(form)].filter(([name]) => name !== 'back');

  const keep = async () => {
    clearTimeout(timer);
    const form = unkept;
    unkept = null;
    if (!form) return;
    const fields = fieldsOf(form);
    const name = nameOf(form);
    const here = JSON.stringify(fields);
    if (await schublade.ask(form.dataset.keeps, { method: 'POST', fields: new URLSearchParams(fields), quiet: true })) {
      if (localStorage.getItem(name) === here) localStorage.removeItem(name);
      if (away) schublade.tell('The connection is back, and what you wrote is kept.');
      away = false;
    } else if (form.isConnected) {
      if (!away) schublade.tell('No connection. What you write is kept in this browser, and on the server as soon as it can be reached.', true);
      away = true;
      unkept ??= form;
      timer = setTimeout(keep, AWAY_MILLIS);
    }
  };

  document.addEventListener('input', (event) => {
    const form = event.target.form;
    if (!form || !('keeps' in form.dataset)) return;
    localStorage.setItem(nameOf(form), JSON.stringify(fieldsOf(form)));
    unkept = form;
    clearTimeout(timer);
    timer = setTimeout(keep, away ? AWAY_MILLIS : PAUSE_MILLIS);
  });

  addEventListener('online', keep);

  document.addEventListener('htmx:afterRequest', ({ detail }) => {
    if (detail.successful && 'keeps' in detail.elt.dataset) localStorage.removeItem(nameOf(detail.elt));
  });

  /** What the server did not get the last time is there again. */
  const bringBack = () => {
    const form = document.querySelector('form[data-keeps]');
    const kept = form && localStorage.getItem(nameOf(form));
    if (!kept) return;
    for (const [name, value] of JSON.parse(kept)) {
      const field = form.elements.namedItem(name);
      if (field) field.value = value;
    }
    unkept = form;
    keep();
  };
  document.addEventListener('htmx:load', (event) => { if (event.target.querySelector?.('form[data-keeps]')) bringBack(); });
  addEventListener('load', bringBack);

  document.addEventListener('submit', (event) => {
    const back = event.target.elements.namedItem('back');
    if (back) back.value = schublade.deskAddress();
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
    } else if (event.key === 'Escape' && !event.isComposing && !schublade.isCovered()) {
      schublade.toDesk();
    }
  });
})();
