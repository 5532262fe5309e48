/* Widths of the cabinet and of the reading sheet: dragged, or set with the arrow keys; remembered by the browser. */
(() => {
  'use strict';

  const STEP = 16;
  const parts = {
    cabinet: { least: 180, most: 460, of: (x) => x },
    sheet: { least: 280, most: 900, of: (x) => innerWidth - x },
  };
  const name = (part) => `schublade-${part}-width`;

  /** Leaves room for the list, whatever was chosen in a larger window. */
  const bounded = (part, width) => Math.round(Math.max(parts[part].least, Math.min(parts[part].most, innerWidth * 0.6, width)));

  const show = (part, width) => {
    const { style } = document.documentElement;
    if (width) style.setProperty(`--${part}-width`, `${bounded(part, width)}px`);
    else style.removeProperty(`--${part}-width`);
  };

  const keep = (part, width) => {
    show(part, width);
    if (width) localStorage.setItem(name(part), String(bounded(part, width)));
    else localStorage.removeItem(name(part));
  };

  const showAll = () => Object.keys(parts).forEach((part) => show(part, Number(localStorage.getItem(name(part)))));
  showAll();
  addEventListener('resize', showAll);

  const splitter = (event) => event.target.closest?.('.splitter');

  document.addEventListener('pointerdown', (event) => {
    const held = splitter(event);
    if (!held || event.button !== 0) return;
    event.preventDefault();
    const part = held.dataset.splits;
    const follow = (moved) => keep(part, parts[part].of(moved.clientX));
    held.setPointerCapture(event.pointerId);
    held.classList.add('held');
    held.addEventListener('pointermove', follow);
    held.addEventListener('lostpointercapture', () => {
      held.classList.remove('held');
      held.removeEventListener('pointermove', follow);
    }, { once: true });
  });

  document.addEventListener('focusin', (event) => {
    const held = splitter(event);
    if (!held) return;
    const at = held.getBoundingClientRect();
    held.setAttribute('aria-valuenow', String(Math.round(parts[held.dataset.splits].of(at.left + at.width / 2))));
  });

  document.addEventListener('dblclick', (event) => {
    const held = splitter(event);
    if (held) keep(held.dataset.splits, 0);
  });

  document.addEventListener('keydown', (event) => {
    const held = splitter(event);
    if (!held || !['ArrowLeft', 'ArrowRight'].includes(event.key)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    const part = held.dataset.splits;
    const at = held.getBoundingClientRect();
    keep(part, parts[part].of(at.left + at.width / 2) + (event.key === 'ArrowRight' ? STEP : -STEP) * (part === 'sheet' ? -1 : 1));
  }, { capture: true });
})();
