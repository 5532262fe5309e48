/* Printing: a message or a conversation as a document of its own; of a page, what it is about and not what stands around it. */
(() => {
  'use strict';

  const openMessage = () => {
    const sheet = document.getElementById('sheet');
    return sheet?.checkVisibility() ? sheet.dataset.message : null;
  };

  const printMessage = (id, conversation) => {
    document.getElementById('printed')?.remove();
    const frame = Object.assign(document.createElement('iframe'), { id: 'printed', src: `/message/${id}/print?conversation=${conversation}`, title: 'Printed' });
    frame.className = 'printed';
    frame.setAttribute('aria-hidden', 'true');
    frame.tabIndex = -1;
    frame.addEventListener('load', () => frame.contentWindow.print());
    document.querySelector('.app').append(frame);
  };

  const print = (what) => {
    const id = openMessage();
    if (what === 'page') window.print();
    else if (id) printMessage(id, what === 'conversation');
    else schublade.tell('Open a message first: with the arrow keys, or a click.');
  };

  document.addEventListener('click', (event) => {
    const { prints } = event.target.closest('[data-prints]')?.dataset ?? {};
    if (prints) print(prints);
  });

  document.addEventListener('keydown', (event) => {
    if (event.key.toLowerCase() !== 'p' || !(event.ctrlKey || event.metaKey) || event.shiftKey || event.altKey || !openMessage()) return;
    event.preventDefault();
    print('message');
  });
})();
