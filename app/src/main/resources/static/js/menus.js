/* Menus: of a place in the cabinet, and of the selected messages; on a right click, a long touch, or the menu key. */
(() => {
  'use strict';

  const show = (menu, x, y) => {
    menu.showPopover();
    const { width, height } = menu.getBoundingClientRect();
    menu.style.left = Math.max(4, Math.min(x, innerWidth - width - 4)) + 'px';
    menu.style.top = Math.max(4, Math.min(y, innerHeight - height - 4)) + 'px';
    menu.querySelector('[role=menuitem]:not(:disabled), .go')?.focus();
  };

  const menu = () => document.getElementById('place-menu');

  /** The keys of the page that act on the selected messages, as a menu. */
  const fillWithDeeds = () => {
    const box = menu();
    box.className = 'menu-sheet floating';
    box.setAttribute('role', 'dialog');
    box.setAttribute('aria-label', 'The selected messages');
    const items = document.createElement('div');
    items.setAttribute('role', 'menu');
    items.setAttribute('aria-label', 'The selected messages');
    box.replaceChildren(items);
    items.replaceChildren(...[...document.querySelectorAll('.answers [data-key], .deeds :is([data-key], [data-prints]), .slots [data-key], #rule-slot')].map((deed) => {
      const item = document.createElement('button');
      item.type = 'button';
      item.setAttribute('role', 'menuitem');
      const { key, does, prints } = deed.dataset;
      item.append(does);
      if (key) item.append(' ', Object.assign(document.createElement('kbd'), { textContent: schublade.keyCap(key) }));
      if (prints === 'message') item.append(' ', Object.assign(document.createElement('kbd'), { textContent: 'Ctrl P' }));
      item.addEventListener('click', () => {
        box.hidePopover();
        (key ? document.querySelector(`[data-key="${key}"]`) : deed)?.click(); // The sheet's own may have come anew since.
      });
      return item;
    }));
  };

  document.addEventListener('contextmenu', async (event) => {
    const place = event.target.closest('#cabinet [data-folder], #cabinet [data-label]');
    const list = event.target.closest('#rows');
    if (!place && !list) return;
    event.preventDefault();
    let { clientX: x, clientY: y } = event;
    if (place) {
      const kind = place.dataset.folder ? `/folders/${place.dataset.folder}` : `/labels/${place.dataset.label}`;
      const at = place.getBoundingClientRect();
      if (event.pointerType === '' || x === 0) [x, y] = [at.left + 20, at.bottom];
      if (await schublade.ask(kind + '/menu', { into: 'place-menu' })) show(menu(), x, y);
      return;
    }
    const row = event.target.closest('.row') ?? document.querySelector('.row.current');
    if (!row) return;
    if (row.getAttribute('aria-selected') !== 'true') document.dispatchEvent(new CustomEvent('open-row', { detail: row.dataset.id }));
    if (event.target === list) {
      const at = row.getBoundingClientRect();
      [x, y] = [at.left + 60, at.bottom];
    }
    fillWithDeeds();
    show(menu(), x, y);
  });

  /** Below what was pressed for it. */
  schublade.showMenu = (button) => {
    const { left, bottom } = button.getBoundingClientRect();
    show(menu(), left, bottom + 4);
  };

  /** Who somebody is. */
  document.addEventListener('click', async ({ target }) => {
    const name = target.closest('[data-who]');
    if (name && await schublade.ask('/people/card?' + new URLSearchParams({ address: name.dataset.who }), { into: 'place-menu' })) schublade.showMenu(name);
  });

  document.addEventListener('submit', (event) => {
    const { sends } = event.target.dataset;
    if (!sends) return;
    event.preventDefault();
    menu().hidePopover();
    schublade.send(sends, Object.fromEntries(new FormData(event.target)));
  });

  /** The menu in which the focus is: one that floats, or one that hangs from its button. */
  const around = (element) => element.closest?.('#place-menu, details.menu[open]');

  document.addEventListener('keydown', (event) => {
    const box = around(event.target);
    if (!box || event.isComposing) return;
    if (event.key === 'Escape' && box.matches('details')) {
      event.preventDefault();
      event.stopImmediatePropagation();
      box.open = false;
      box.querySelector('summary').focus();
      return;
    }
    if (event.key === 'Enter' && event.target.matches('select')) {
      event.preventDefault();
      event.target.form.requestSubmit(); // As from any other field.
    }
    if (event.target.matches('input, select, textarea')) return;
    const items = [...box.querySelectorAll('[role=menuitem]:not(:disabled), .menu-sheet > :is(a, button), .menu-sheet > form:not(:has(label)) > button')].filter((item) => item.checkVisibility());
    const at = items.indexOf(document.activeElement);
    const letter = event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey ? event.key.toLowerCase() : null;
    const begins = (item) => item.textContent.trim().toLowerCase().startsWith(letter);
    const to = { ArrowDown: at + 1, ArrowUp: at < 0 ? items.length - 1 : at - 1, Home: 0, End: items.length - 1 }[event.key]
      ?? (letter ? [...items.keys()].map((i) => (at + 1 + i) % items.length).find((i) => begins(items[i])) : undefined);
    if (to === undefined || items.length === 0) return;
    event.preventDefault();
    event.stopImmediatePropagation(); // A letter is for the menu, not for the page behind it.
    items[(to + items.length) % items.length].focus();
  }, { capture: true });

  /** A menu that hangs from its button stays inside of the window, and has the focus. */
  const settle = (box) => {
    const sheet = box.querySelector('.menu-sheet');
    sheet.style.translate = '';
    const { left, right, top } = sheet.getBoundingClientRect();
    const beyond = Math.max(4 - left, 0) || Math.min(innerWidth - 4 - right, 0);
    if (beyond) sheet.style.translate = `${beyond}px`;
    sheet.style.maxHeight = `${innerHeight - top - 8}px`;
  };

  document.addEventListener('toggle', (event) => {
    if (!event.target.matches?.('details.menu[open]')) return;
    settle(event.target);
    event.target.querySelector('form :is(select, input:not([type=hidden])), .menu-sheet :is(a, button)')?.focus();
  }, { capture: true });
  addEventListener('resize', () => document.querySelectorAll('details.menu[open]').forEach(settle));

  document.addEventListener('focusout', (event) => {
    const box = event.target.closest?.('details.menu[open]');
    if (box && event.relatedTarget && !box.contains(event.relatedTarget)) box.open = false;
  });

  document.addEventListener('click', (event) => {
    const more = event.target.closest('[data-opens-deeds]');
    if (more) {
      const at = more.getBoundingClientRect();
      fillWithDeeds();
      show(menu(), at.left, at.bottom + 2);
    }
    if (event.target.closest('#place-menu [data-posts]')) menu().hidePopover();
    const presses = event.target.closest('[data-presses]');
    if (presses) document.querySelector(`[data-key="${presses.dataset.presses}"]`)?.click();
    const asks = event.target.closest('[data-asks=place]');
    if (asks) document.dispatchEvent(new CustomEvent('open-picker', { detail: { kind: 'place' } }));
  });

  document.addEventListener('picked-place', (event) => schublade.go(event.detail.href));
})();
