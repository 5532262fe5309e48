/* Menus: of a place in the cabinet, and of the selected messages; on a right click, a long touch, or the menu key. */
(() => {
  'use strict';

  const show = (menu, x, y) => {
    menu.showPopover();
    const { width, height } = menu.getBoundingClientRect();
    menu.style.left = Math.max(4, Math.min(x, innerWidth - width - 4)) + 'px';
    menu.style.top = Math.max(4, Math.min(y, innerHeight - height - 4)) + 'px';
    menu.querySelector('[role=menuitem]:not(:disabled)')?.focus();
  };

  const menu = () => document.getElementById('place-menu');

  /** The keys of the page that act on the selected messages, as a menu. */
  const fillWithDeeds = () => {
    const box = menu();
    box.className = 'menu-sheet floating';
    box.setAttribute('role', 'menu');
    box.setAttribute('aria-label', 'The selected messages');
    box.replaceChildren(...[...document.querySelectorAll('.answers [data-key], .deeds [data-key], .slots [data-key], #rule-slot')].map((deed) => {
      const item = document.createElement('button');
      item.type = 'button';
      item.setAttribute('role', 'menuitem');
      item.append(deed.dataset.does, Object.assign(document.createElement('kbd'), { textContent: deed.dataset.key.length === 1 ? deed.dataset.key.toUpperCase() : deed.dataset.key }));
      const { key } = deed.dataset;
      item.addEventListener('click', () => {
        box.hidePopover();
        document.querySelector(`[data-key="${key}"]`)?.click(); // The sheet's own may have come anew since.
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

  document.addEventListener('submit', (event) => {
    const { sends } = event.target.dataset;
    if (!sends) return;
    event.preventDefault();
    menu().hidePopover();
    schublade.send(sends, Object.fromEntries(new FormData(event.target)));
  });

  document.addEventListener('keydown', (event) => {
    const box = event.target.closest?.('#place-menu');
    if (!box || event.target.matches('input')) return;
    const items = [...box.querySelectorAll('[role=menuitem]:not(:disabled)')];
    const at = items.indexOf(document.activeElement);
    const letter = event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey ? event.key.toLowerCase() : null;
    const begins = (item) => item.textContent.trim().toLowerCase().startsWith(letter);
    const to = { ArrowDown: at + 1, ArrowUp: at < 0 ? items.length - 1 : at - 1, Home: 0, End: items.length - 1 }[event.key]
      ?? (letter ? [...items.keys()].map((i) => (at + 1 + i) % items.length).find((i) => begins(items[i])) : undefined);
    if (to === undefined) return;
    event.preventDefault();
    items[(to + items.length) % items.length].focus();
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

  document.addEventListener('picked-place', (event) => {
    const link = document.createElement('a');
    link.href = event.detail.href;
    document.querySelector('.app').append(link);
    htmx.process(link); // Boosted like every link of the page.
    link.click();
  });
})();
