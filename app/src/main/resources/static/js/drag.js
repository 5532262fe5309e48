/*
 * Messages dragged onto a drawer of the cabinet are filed there; onto a label or a tray, they get that. Folders and labels
 * are dragged among each other: onto another, into it; onto its edge, beside it.
 */
(() => {
  'use strict';

  const OPEN_MILLIS = 700;
  const EDGE = 0.28;
  /** What is dragged: { kind: 'messages' | 'folder' | 'label', id }. */
  let dragged = null;
  let target = null;
  let where = 'in';
  let opening = null;

  const light = (place, how = 'in') => {
    if (place === target && how === where) return;
    target?.classList.remove('over', 'before', 'after');
    clearTimeout(opening);
    target = place;
    where = how;
    target?.classList.add(how === 'in' ? 'over' : how);
    // A drawer that is held over opens.
    const twist = how === 'in' && target?.parentElement.querySelector('.twist[aria-expanded=false]');
    if (twist) opening = setTimeout(() => twist.click(), OPEN_MILLIS);
  };

  const card = (text) => {
    const shown = document.createElement('div');
    shown.className = 'drag-card';
    shown.textContent = text;
    document.querySelector('.app').append(shown);
    setTimeout(() => shown.remove());
    return shown;
  };

  const begin = (event, kind, id, text) => {
    dragged = { kind, id };
    document.body.classList.add('dragging');
    event.dataTransfer.setDragImage(card(text), 12, 12);
    event.dataTransfer.effectAllowed = 'move';
    event.dataTransfer.setData('application/x-schublade', id);
  };

  document.addEventListener('dragstart', (event) => {
    const row = event.target.closest?.('.row');
    const place = event.target.closest?.('#cabinet [data-own], #cabinet [data-label]');
    if (row) {
      if (row.getAttribute('aria-selected') !== 'true') {
        document.dispatchEvent(new CustomEvent('select-row', { detail: row.dataset.id }));
      }
      const count = document.querySelectorAll('.row[aria-selected=true]').length;
      begin(event, 'messages', row.dataset.id, count === 1 ? row.querySelector('.s b').textContent : `${count} messages`);
    } else if (place) {
      const kind = place.dataset.folder ? 'folder' : 'label';
      begin(event, kind, place.dataset[kind], place.dataset.name);
    }
  });

  const aim = (event) => {
    if (dragged.kind === 'messages') {
      light(event.target.closest?.('[data-folder], [data-label], [data-tray]') ?? null);
      return;
    }
    const place = event.target.closest?.(dragged.kind === 'folder' ? '[data-own]' : '[data-label]') ?? null;
    if (!place || place.dataset[dragged.kind] === dragged.id) {
      light(null);
      return;
    }
    const box = place.getBoundingClientRect();
    const part = (event.clientY - box.top) / box.height;
    light(place, part < EDGE ? 'before' : part > 1 - EDGE ? 'after' : 'in');
  };

  document.addEventListener('dragover', (event) => {
    if (!dragged) return;
    aim(event);
    if (target) {
      event.preventDefault();
      event.dataTransfer.dropEffect = 'move';
    }
  });

  document.addEventListener('drop', (event) => {
    if (!dragged || !target) return;
    event.preventDefault();
    const { folder, label, tray } = target.dataset;
    if (dragged.kind === 'messages') {
      const [kind, place] = folder ? ['folder', folder] : label ? ['label', label] : ['tray', tray];
      document.dispatchEvent(new CustomEvent('picked-' + kind, { detail: { place } }));
    } else {
      schublade.send(`/${dragged.kind}s/${dragged.id}/put`, { other: folder ?? label, where });
    }
  });

  // While something is dragged the pointer tells nothing of itself. If it does, the drag ended without a word.
  document.addEventListener('mousemove', () => { if (dragged) document.dispatchEvent(new Event('dragend')); });

  // In the capture phase, before what waits for the end begins.
  document.addEventListener('dragend', () => {
    document.body.classList.remove('dragging');
    dragged = null;
    light(null);
  }, { capture: true });
})();
