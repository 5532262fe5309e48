/* Keys that are pressed where a message's HTML has the focus are keys of the page: no script runs in that document, so that it has none of its own. */
(() => {
  'use strict';

  /** The header of a message as it came, or its text: fetched when it is looked at. */
  document.addEventListener('toggle', async ({ target }) => {
    const address = target.open && target.dataset?.fetched;
    if (!address) return;
    delete target.dataset.fetched;
    const text = await schublade.fetchAhead(address, '');
    if (text === null) target.dataset.fetched = address;
    target.querySelector('pre').textContent = text ?? 'It could not be fetched. Close and open it once more.';
  }, { capture: true });

  /** Fetched by the server, and only when it is wished. */
  document.addEventListener('click', ({ target }) => {
    const button = target.closest('[data-shows-pictures]');
    const frame = button?.closest('.sheet, .unfolded').querySelector(':scope > iframe.html');
    if (!frame) return;
    frame.src = frame.getAttribute('src').replace(/\?.*/, '') + '?pictures=true';
    button.closest('.note').remove();
  });

  /* How large messages are read: in this browser, as its screen is. */
  const SIZES = [0.8, 0.9, 1, 1.15, 1.3, 1.5, 1.75, 2];
  const KEPT = 'schublade-text-size';
  const size = () => (SIZES.includes(Number(localStorage.getItem(KEPT))) ? Number(localStorage.getItem(KEPT)) : 1);
  const sizeFrame = (frame) => { if (frame.contentDocument?.documentElement) frame.contentDocument.documentElement.style.zoom = size(); };
  const showSize = () => {
    document.documentElement.style.setProperty('--text-size', size());
    document.querySelectorAll('iframe.html').forEach(sizeFrame);
  };
  showSize();

  document.addEventListener('click', ({ target }) => {
    const by = Number(target.closest('[data-text-size]')?.dataset.textSize ?? 0);
    if (!by) return;
    const at = Math.max(0, Math.min(SIZES.length - 1, SIZES.indexOf(size()) + by));
    localStorage.setItem(KEPT, SIZES[at]);
    showSize();
  });

  document.addEventListener('load', ({ target: frame }) => {
    if (!frame.matches?.('iframe.html')) return;
    sizeFrame(frame);
    frame.contentDocument?.addEventListener('keydown', (event) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.key === 'Tab') return; // Selecting, copying, and going on to the next link are the document's.
      const { key, code, shiftKey, repeat, isComposing } = event;
      const forwarded = new KeyboardEvent('keydown', { key, code, shiftKey, repeat, isComposing, bubbles: true, cancelable: true });
      if (!frame.closest('.sheet')?.dispatchEvent(forwarded)) event.preventDefault();
    });
  }, { capture: true });
})();
