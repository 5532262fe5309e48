/* The other messages of a conversation, below the one that is open: unfolded one by one, or all at once, and folded again. */
(() => {
  'use strict';

  const GONE = '<div class="unfolded"><p class="hint">It could not be fetched. Fold it and unfold it once more.</p></div>';

  document.addEventListener('toggle', async ({ target }) => {
    if (!target.open || !target.dataset?.unfolded) return;
    const address = target.dataset.unfolded;
    delete target.dataset.unfolded;
    const text = await schublade.fetchAhead(address, '');
    if (text === null) target.dataset.unfolded = address;
    htmx.swap(target.querySelector('.unfolded'), text ?? GONE, { swapStyle: 'outerHTML', swapDelay: 0, settleDelay: 0 });
  }, { capture: true });

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
