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
  const fieldsOf = (form) => [...new FormData(form)].filter(([name]) => !['back', '_csrf'].includes(name));
  /** What is typed, as the browser keeps it: behind the version that it was typed into. */
  const textOf = (form) => JSON.stringify(fieldsOf(form).filter(([name]) => name !== 'version'));
  const textKept = (name) => localStorage.getItem(name)?.replace(/^\d+ /, '');

  /** Another window has done something with it that is not shown here: what is typed is kept by the browser until that is decided. */
  const isElsewhere = (form) => Boolean(form.querySelector('.elsewhere'));

  const keepNow = async (over = false) => {
    clearTimeout(timer);
    const form = unkept;
    unkept = null;
    if (!form || (isElsewhere(form) && !over)) return;
    const fields = fieldsOf(form);
    const name = nameOf(form);
    const here = textOf(form);
    let status = 0;
    const kept = await schublade.ask(form.dataset.keeps, {
      method: 'POST', fields: new URLSearchParams(over ? [...fields, ['over', 'true']] : fields), quiet: true, shows: () => form.isConnected, onAnswer: (answered) => { status = answered; },
    });
    if (kept) {
      if (textKept(name) === here) localStorage.removeItem(name);
      const told = form.querySelector('.kept');
      if (told) told.textContent = `kept ${new Date().toTimeString().slice(0, 5)}`;
      if (away) schublade.tell('The connection is back, and what you wrote is kept.');
      away = false;
    } else if (status !== 422 && form.isConnected) {
      if (!away) schublade.tell('No connection. What you write is kept in this browser, and on the server as soon as it can be reached.', true);
      away = true;
      unkept ??= form;
      timer = setTimeout(keep, AWAY_MILLIS);
    }
  };

  /** One after the other: what was typed last is kept last. */
  let last = Promise.resolve();
  const keep = () => {
    last = last.then(() => keepNow(), () => keepNow());
    return last;
  };

  document.addEventListener('input', (event) => {
    const form = event.target.form;
    if (!form || !('keeps' in form.dataset)) return;
    unkept = form;
    try {
      localStorage.setItem(nameOf(form), `${form.elements.version.value} ${textOf(form)}`);
    } catch {
      // The browser has no room for it; the server will have it in a moment.
    }
    clearTimeout(timer);
    timer = setTimeout(keep, away ? AWAY_MILLIS : PAUSE_MILLIS);
  });

  addEventListener('online', keep);

  /** All that has been typed is with the server then. */
  schublade.keepDraft = (form) => {
    if (form) unkept ??= form;
    return keep();
  };

  // While it is on the page: after that, htmx names another element.
  document.addEventListener('htmx:beforeOnLoad', ({ detail }) => {
    if (detail.xhr.status < 400 && 'keeps' in detail.elt.dataset) localStorage.removeItem(nameOf(detail.elt));
  });

  /** What the server did not get the last time is there again. */
  const bringBack = () => {
    const form = document.querySelector('form[data-keeps]');
    const kept = form && localStorage.getItem(nameOf(form));
    if (!kept) return;
    form.elements.version.value = parseInt(kept, 10);
    for (const [name, value] of JSON.parse(textKept(nameOf(form)))) {
      const field = form.elements.namedItem(name);
      if (field) field.value = value;
    }
    form.dispatchEvent(new Event('brought-back'));
    unkept = form;
    keep();
  };
  document.addEventListener('htmx:load', (event) => { if (event.target.querySelector?.('form[data-keeps]')) bringBack(); });
  addEventListener('load', bringBack);

  /* The same message in another window. */

  document.addEventListener('draft-changed', ({ detail: id }) => {
    const form = document.querySelector('form[data-keeps]');
    if (form?.dataset.keeps !== `/write/${id}/keep`) return;
    const version = form.elements.version.value;
    schublade.ask(form.dataset.keeps.replace(/keep$/, `elsewhere?version=${version}`), { still: () => form.isConnected && form.elements.version.value === version });
  });

  const showElsewhere = (form) => {
    unkept = null;
    localStorage.removeItem(nameOf(form));
    if (!schublade.isWriting()) {
      schublade.go(location.pathname);
      return;
    }
    const into = document.querySelector('[data-sends-on]')?.value ?? '';
    schublade.ask(form.dataset.keeps.replace(/keep$/, `again?into=${/^\d+$/.test(into) ? into : ''}`), { into: 'answer', still: () => form.isConnected });
  };

  document.addEventListener('click', ({ target }) => {
    const form = target.closest('form[data-keeps]');
    if (!form) return;
    if (target.closest('[data-shows-elsewhere]')) showElsewhere(form);
    if (!target.closest('[data-keeps-here]')) return;
    unkept = form;
    last = last.then(() => keepNow(true));
  });

  document.addEventListener('submit', (event) => {
    const back = event.target.elements.namedItem('back');
    if (back) back.value = schublade.deskAddress();
    if (event.target !== unkept) return;
    clearTimeout(timer);
    unkept = null; // It is sent along.
  }, { capture: true });

  document.addEventListener('htmx:beforeRequest', keep);
  window.addEventListener('pagehide', () => keepNow()); // Nothing can be waited for.

  document.addEventListener('keydown', (event) => {
    const form = document.querySelector('form[data-keeps]');
    const isElsewhere = schublade.isTyping(event.target) && !form?.contains(event.target);
    if (!form || event.isComposing || isElsewhere) return;
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      const sendsOn = event.shiftKey && document.querySelector('[data-sends-on]');
      if (sendsOn) sendsOn.click();
      else form.requestSubmit();
    } else if (event.key === 'Escape' && !schublade.isCovered() && !document.querySelector('details.menu[open]')) {
      event.preventDefault();
      event.stopPropagation();
      leave(form);
    }
  }, { capture: true });

  /* Below the message that is answered. */

  /** What is being written there, if anything is: then that message stays open. */
  schublade.isWriting = () => Boolean(document.querySelector('#answer form'));

  const closed = (how) => document.dispatchEvent(new CustomEvent('answer-closed', { detail: how }));

  /** What is being left: whoever presses once more meanwhile leaves nothing else by it. */
  let left = null;

  /** What was written stays as a draft; a message in which nothing was written is forgotten. */
  const leave = async (form) => {
    if (form === left) return;
    left = form;
    const isBelow = schublade.isWriting();
    await keep();
    const done = await schublade.ask(form.dataset.leaves, { method: 'POST', into: isBelow ? 'answer' : null, still: () => form.isConnected });
    if (isBelow && done) closed({ sent: false });
    else left = null;
    if (!isBelow && form.isConnected) schublade.toDesk();
  };

  document.addEventListener('click', (event) => {
    const form = document.querySelector('form[data-leaves]');
    if (form && event.target.closest('[data-leaves-writing]')) leave(form);
  });

  /** What is marked in the message, and that alone is quoted then. */
  const marked = () => {
    const frame = document.querySelector('#sheet > iframe.html');
    const here = getSelection();
    const text = document.querySelector('#sheet > .text');
    const isInside = text && here.rangeCount && text.contains(here.getRangeAt(0).commonAncestorContainer);
    return (isInside ? String(here) : String(frame?.contentDocument?.getSelection() ?? '')).trim();
  };

  document.addEventListener('submit', ({ target: form }) => {
    const field = form.closest('.answers') && form.elements.marked;
    if (field) field.value = marked().slice(0, 20000);
  }, { capture: true });

  /** One message is forwarded where it is read; several on a page of their own. */
  document.addEventListener('submit', ({ target: form }) => {
    if (!form.classList.contains('forwards')) return;
    const open = document.getElementById('answer') && document.getElementById('sheet').dataset.message;
    const meant = form.elements.ids.value;
    const where = { 'hx-target': '#answer', 'hx-swap': 'outerHTML show:none' };
    for (const [name, value] of Object.entries(where)) {
      if (meant === open) form.setAttribute(name, value);
      else form.removeAttribute(name);
    }
  }, { capture: true });

  document.addEventListener('htmx:load', ({ target }) => {
    const form = target.matches?.('#answer') && target.querySelector('form');
    if (!form) return;
    form.scrollIntoView({ block: form.offsetHeight > form.closest('.sheet').clientHeight ? 'start' : 'nearest' });
  });
})();
