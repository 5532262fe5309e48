/*
 * Messages dragged onto a drawer of the cabinet are filed there; onto a label or a tray, they get that. Over the tickler its days open
 * and can be dropped on; on the tickler itself, it is asked until when. Folders and labels are dragged among each other: onto another, into it; onto its edge, beside it. Saved searches are
 * only dragged beside each other.
 */
(() => {
  'use strict';

  const OPEN_MILLIS = 700;
  const EDGE = 0.28;
  const HOLD_MILLIS = 350;
  /** A finger that is held still moves so many pixels. */
  const STILL = 9;
  /** How far the days reach below the place that they open at. */
  const OVERLAP = 2;
  /** What is dragged: { kind: 'messages' | 'folder' | 'label' | 'search', id }. */
  let dragged = null;
  /** What each kind of place can be put to, and where it is told. */
  const PLACES = {
    folder: { beside: '[data-own]', sent: '/folders/' },
    label: { beside: '[data-label]', sent: '/labels/' },
    search: { beside: '[data-search]', sent: '/searches/' },
  };
  let target = null;
  let where = 'in';
  let opening = null;
  let days = null;

  /** The days that messages are put off to, as the dialog has them, below the place that they are dragged over. */
  const openDays = (place) => {
    if (days) return;
    const choices = document.querySelector('dialog[data-kind=tickler] .choices')?.cloneNode(true);
    if (!choices) return;
    days = document.createElement('div');
    days.className = 'drop-days';
    days.append(choices);
    document.querySelector('.app').append(days);
    const { left, bottom } = place.getBoundingClientRect();
    const fits = (at, size, room) => `${Math.max(0, Math.min(at, room - size))}px`;
    days.style.left = fits(left, days.offsetWidth, innerWidth);
    days.style.top = fits(bottom - OVERLAP, days.offsetHeight, innerHeight);
  };

  const closeDays = () => {
    days?.remove();
    days = null;
  };

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
    return shown;
  };

  /** What can be taken hold of here: a row or a place of the cabinet; null if nothing can. */
  const hold = (element) => element.closest?.('.row, #cabinet [data-own], #cabinet [data-label], #cabinet [data-search]') ?? null;

  /** Takes hold of something; returns what the card says that goes along. */
  const take = (held) => {
    document.body.classList.add('dragging');
    if (!held.matches('.row')) {
      const kind = Object.keys(PLACES).find((one) => one in held.dataset);
      dragged = { kind, id: held.dataset[kind] };
      return held.dataset.name;
    }
    if (held.getAttribute('aria-selected') !== 'true') {
      document.dispatchEvent(new CustomEvent('select-row', { detail: held.dataset.id }));
    }
    dragged = { kind: 'messages', id: held.dataset.id };
    const count = document.querySelectorAll('.row[aria-selected=true]').length;
    return count === 1 ? (held.querySelector('.s b') ?? held.querySelector('.w')).textContent : `${count} messages`;
  };

  document.addEventListener('dragstart', (event) => {
    const held = hold(event.target);
    if (!held) return;
    const image = card(take(held));
    setTimeout(() => image.remove());
    event.dataTransfer.setDragImage(image, 12, 12);
    event.dataTransfer.effectAllowed = 'move';
    event.dataTransfer.setData('application/x-schublade', dragged.id);
  });

  const aim = (element, y) => {
    if (dragged.kind === 'messages') {
      const place = element?.closest?.('.drop-days [data-day], [data-folder]:not([data-takes=false]), [data-label], [data-tray], [data-tickler]') ?? null;
      if (place && 'tickler' in place.dataset) openDays(place);
      else if (!days?.contains(element)) closeDays();
      light(place);
      return;
    }
    const place = element?.closest?.(PLACES[dragged.kind].beside) ?? null;
    if (!place || place.dataset[dragged.kind] === dragged.id) {
      light(null);
      return;
    }
    const box = place.getBoundingClientRect();
    const part = (y - box.top) / box.height;
    const edge = dragged.kind === 'search' ? 0.5 : EDGE;
    light(place, part < edge ? 'before' : part > 1 - edge ? 'after' : 'in');
  };

  document.addEventListener('dragover', (event) => {
    if (!dragged) return;
    aim(event.target, event.clientY);
    if (target) {
      event.preventDefault();
      event.dataTransfer.dropEffect = 'move';
    }
  });

  const drop = () => {
    const { folder, label, tray, day, writes } = target.dataset;
    closeDays(); // What was dragged may be gone with its row: then nothing tells that the drag has ended.
    if (day) {
      document.dispatchEvent(new CustomEvent('picked-tickler', { detail: writes === undefined ? { due: day } : { due: day, on: true } }));
    } else if ('tickler' in target.dataset) {
      document.dispatchEvent(new CustomEvent('ask-for', { detail: 'tickler' })); // Until when is asked.
    } else if (dragged.kind === 'messages') {
      const [kind, place] = folder ? ['folder', folder] : label ? ['label', label] : ['tray', tray];
      document.dispatchEvent(new CustomEvent('picked-' + kind, { detail: { place } }));
    } else {
      schublade.send(`${PLACES[dragged.kind].sent}${dragged.id}/put`, { other: target.dataset[dragged.kind], where });
    }
  };

  document.addEventListener('drop', (event) => {
    if (!dragged || !target) return;
    event.preventDefault();
    drop();
  });

  /* By touch: held for a moment it comes along with the finger; let go where it was, its menu opens. */
  let touch = null;

  const letGo = () => {
    clearTimeout(touch?.timer);
    touch?.card?.remove();
    touch = null;
    if (dragged) document.dispatchEvent(new Event('dragend'));
  };

  document.addEventListener('touchstart', (event) => {
    letGo();
    const held = event.touches.length === 1 && hold(event.target);
    if (!held) return;
    const { clientX: x, clientY: y } = event.touches[0];
    touch = { held, x, y, lifted: false, moved: false, card: null };
    touch.timer = setTimeout(() => { touch.lifted = true; }, HOLD_MILLIS);
    // Not at the document: the list may come anew meanwhile, and what is touched hears of its finger only itself then.
    event.target.addEventListener('touchmove', follow, { passive: false });
    event.target.addEventListener('touchend', end, { passive: false, once: true });
    event.target.addEventListener('touchcancel', letGo, { once: true });
  }, { passive: true });

  const follow = (event) => {
    if (!touch) return;
    const { clientX: x, clientY: y } = event.touches[0];
    const far = Math.hypot(x - touch.x, y - touch.y) > STILL;
    if (!touch.lifted) {
      if (far) letGo(); // The page is scrolled.
      return;
    }
    event.preventDefault();
    if (far && !touch.moved) {
      touch.moved = true;
      touch.card = card(take(touch.held));
    }
    if (!touch.moved) return;
    touch.card.style.left = `${x + 12}px`;
    touch.card.style.top = `${y + 12}px`;
    aim(document.elementFromPoint(x, y), y);
  };

  const end = (event) => {
    event.target.removeEventListener('touchmove', follow);
    if (!touch?.lifted) {
      letGo();
      return;
    }
    event.preventDefault();
    const { held, x: clientX, y: clientY, moved } = touch;
    if (moved && target) drop();
    letGo();
    if (moved) return;
    // The list may have come anew meanwhile.
    const under = held.isConnected ? held : document.elementFromPoint(clientX, clientY);
    under?.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX, clientY }));
  };

  // The browser's own long touch must not open the menu before it is known whether something is dragged.
  document.addEventListener('contextmenu', (event) => {
    if (!touch || !event.isTrusted) return;
    event.preventDefault();
    event.stopImmediatePropagation();
  }, { capture: true });

  // While something is dragged the pointer tells nothing of itself. If it does, the drag ended without a word.
  document.addEventListener('mousemove', () => { if (dragged) document.dispatchEvent(new Event('dragend')); });

  // In the capture phase, before what waits for the end begins.
  document.addEventListener('dragend', () => {
    document.body.classList.remove('dragging');
    dragged = null;
    light(null);
    closeDays();
  }, { capture: true });
})();
