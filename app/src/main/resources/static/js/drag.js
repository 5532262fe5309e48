/* Messages dragged onto a drawer of the cabinet are filed there; onto a label or a tray, they get that. */
(() => {
  'use strict';

  let target = null;
  let dragging = false;

  const light = (place) => {
    target?.classList.remove('over');
    target = place;
    target?.classList.add('over');
  };

  document.addEventListener('dragstart', (event) => {
    const row = event.target.closest?.('.row');
    if (!row) return;
    if (row.getAttribute('aria-selected') !== 'true') {
      document.dispatchEvent(new CustomEvent('select-row', { detail: row.dataset.id }));
    }
    const count = document.querySelectorAll('.row[aria-selected=true]').length;
    const card = document.createElement('div');
    card.className = 'drag-card';
    card.textContent = count === 1 ? row.querySelector('.s b').textContent : `${count} messages`;
    document.querySelector('.app').append(card);
    event.dataTransfer.setDragImage(card, 12, 12);
    event.dataTransfer.effectAllowed = 'move';
    event.dataTransfer.setData('application/x-schublade', row.dataset.id);
    dragging = true;
    setTimeout(() => card.remove());
  });

  document.addEventListener('dragover', (event) => {
    if (!dragging) return;
    const place = event.target.closest?.('[data-folder], [data-label], [data-tray]') ?? null;
    if (place !== target) light(place);
    if (place) {
      event.preventDefault();
      event.dataTransfer.dropEffect = 'move';
    }
  });

  document.addEventListener('drop', (event) => {
    if (!dragging || !target) return;
    event.preventDefault();
    drop(target);
  });

  const drop = ({ dataset }) => {
    const [kind, place] = dataset.folder ? ['folder', dataset.folder] : dataset.label ? ['label', dataset.label] : ['tray', dataset.tray];
    document.dispatchEvent(new CustomEvent('picked-' + kind, { detail: { place } }));
  };

  document.addEventListener('dragend', () => {
    dragging = false;
    light(null);
  });
})();
