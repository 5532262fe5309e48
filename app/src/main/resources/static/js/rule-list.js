/* The list of rules: narrowed by words, put in order by drag, several chosen at once. */
(() => {
  'use strict';

  const places = () => [...document.querySelectorAll('.rule-place')];

  const boxes = () => places().filter((place) => !place.hidden).map((place) => place.querySelector('input'));

  const narrow = () => {
    const words = (document.querySelector('[data-filters]')?.value ?? '').toLowerCase().split(/\s+/);
    places().forEach((place) => {
      const text = place.textContent.toLowerCase();
      place.hidden = !words.every((word) => text.includes(word));
    });
  };

  const showChosen = () => {
    const form = document.getElementById('several');
    if (!form) return;
    const count = document.querySelectorAll('.rule-place input:checked').length;
    form.hidden = count === 0;
    form.querySelector('.told').textContent = count === 1 ? '1 rule chosen:' : `${count} rules chosen:`;
    form.querySelector('[data-chooses-all]').hidden = boxes().every((box) => box.checked);
  };

  const choose = (box, on) => {
    box.checked = on;
    if (on) chosen.add(box.value);
    else chosen.delete(box.value);
  };

  document.addEventListener('input', (event) => {
    if (event.target.matches('[data-filters]')) narrow();
  });
  // What is chosen stays chosen, and narrowed, when the list is fetched anew.
  const chosen = new Set();
  let lastChosen = null;
  // With Shift, all from the one before to this one are as this one is now.
  document.addEventListener('click', (event) => {
    const box = event.target;
    if (box.matches('[data-chooses-all]')) {
      boxes().forEach((one) => choose(one, true));
      showChosen();
    }
    if (!box.matches('.rule-place input')) return;
    const all = boxes();
    const [from, to] = [all.findIndex((one) => one.value === lastChosen), all.indexOf(box)].sort((a, b) => a - b);
    const range = event.shiftKey && from >= 0 ? all.slice(from, to + 1) : [box];
    range.forEach((one) => choose(one, box.checked));
    lastChosen = box.value;
    showChosen();
  });

  // Opening a rule leaves the list where it is.
  let scrolled = 0;
  const list = () => document.getElementById('rule-list');
  document.addEventListener('htmx:beforeSwap', () => { scrolled = list()?.scrollTop ?? 0; });
  document.addEventListener('htmx:afterSettle', () => {
    if (list() && list().scrollTop === 0) list().scrollTop = scrolled;
    list()?.querySelector('.rule.sel')?.scrollIntoView({ block: 'nearest' });
    if (places().length === 0) chosen.clear();
    document.querySelectorAll('.rule-place input').forEach((box) => { box.checked = chosen.has(box.value); });
    narrow();
    showChosen();
  });

  let dragged = null;
  let before = null;
  const mark = (place) => {
    before?.classList.remove('over');
    before = place;
    before?.classList.add('over');
  };

  document.addEventListener('dragstart', (event) => {
    dragged = event.target.closest?.('.rule')?.dataset.rule ?? null;
    if (dragged) event.dataTransfer.effectAllowed = 'move';
  });
  document.addEventListener('dragover', (event) => {
    if (!dragged || !event.target.closest?.('#rule-list')) return;
    event.preventDefault();
    mark(event.target.closest('.rule-place'));
  });
  document.addEventListener('drop', async (event) => {
    if (!dragged || !event.target.closest?.('#rule-list')) return;
    event.preventDefault();
    const rule = dragged;
    const next = before?.querySelector('.rule').dataset.rule ?? 0;
    if (rule !== next && await schublade.send(`/rules/${rule}/place`, { before: next })) {
      document.dispatchEvent(new CustomEvent('mail-changed'));
    }
  });
  document.addEventListener('dragend', () => {
    dragged = null;
    mark(null);
  });
})();
