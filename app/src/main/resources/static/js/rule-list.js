/* The list of rules: narrowed by words, put in order by drag, several chosen at once. */
(() => {
  'use strict';

  const places = () => [...document.querySelectorAll('.rule-place')];

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
  };

  document.addEventListener('input', (event) => {
    if (event.target.matches('[data-filters]')) narrow();
  });
  // What is chosen stays chosen, and narrowed, when the list is fetched anew.
  const chosen = new Set();
  document.addEventListener('change', (event) => {
    if (!event.target.matches('.rule-place input')) return;
    if (event.target.checked) chosen.add(event.target.value);
    else chosen.delete(event.target.value);
    showChosen();
  });
  document.addEventListener('htmx:afterSettle', () => {
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
