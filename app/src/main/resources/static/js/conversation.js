/* The other messages of a conversation, below the one that is open: all are unfolded at once, and folded again. */
(() => {
  'use strict';

  document.addEventListener('click', ({ target }) => {
    const button = target.closest('[data-unfolds-all]');
    if (!button) return;
    const all = [...button.closest('.thread').querySelectorAll('details')];
    const open = all.some((one) => !one.open);
    all.forEach((one) => { one.open = open; });
    button.lastChild.textContent = open ? ' Fold' : ' Unfold';
    if (open) all[0].scrollIntoView({ block: 'nearest' });
  });
})();
