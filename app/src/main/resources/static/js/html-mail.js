/* Keys that are pressed where a message's HTML has the focus are keys of the page: no script runs in that document, so that it has none of its own. */
(() => {
  'use strict';

  /** The header of a message as it came; fetched when it is looked at. */
  document.addEventListener('toggle', async ({ target }) => {
    const address = target.open && target.dataset?.header;
    if (!address) return;
    delete target.dataset.header;
    const text = await schublade.fetchAhead(address, '');
    if (text === null) target.dataset.header = address;
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

  document.addEventListener('load', ({ target: frame }) => {
    if (!frame.matches?.('iframe.html')) return;
    frame.contentDocument?.addEventListener('keydown', (event) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.key === 'Tab') return; // Selecting, copying, and going on to the next link are the document's.
      const { key, code, shiftKey, repeat, isComposing } = event;
      const forwarded = new KeyboardEvent('keydown', { key, code, shiftKey, repeat, isComposing, bubbles: true, cancelable: true });
      if (!frame.closest('.sheet')?.dispatchEvent(forwarded)) event.preventDefault();
    });
  }, { capture: true });
})();
