/* Keys that are pressed where a message's HTML has the focus are keys of the page: no script runs in that document, so that it has none of its own. */
(() => {
  'use strict';

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
