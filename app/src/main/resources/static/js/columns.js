/* The columns of the list: as wide as they were drawn, and in the order they were put into. */
(() => {
  'use strict';

  const STEP = 16;
  const NARROWEST = 40;
  /** Pixels between two columns, and of what stands before the first. */
  const GAP = 9;
  const BEFORE = 65;
  const FLEXIBLE = 'SUBJECT';
  /** Widths are kept in the pixels of a text of usual size; in a larger text, columns are as much wider. */
  const asLength = (pixels) => `${pixels / 16}rem`;
  const asKept = (pixels) => pixels * 16 / parseFloat(getComputedStyle(document.documentElement).fontSize);
  let moving = null;

  const scroll = () => document.querySelector('.scroll.columned');
  const heads = () => [...document.querySelectorAll('#heads .head')];

  /** The widths as they are at the heads; what is left over goes to the subject, or to the last column. */
  const lay = () => {
    const box = scroll();
    if (!box) return;
    const all = heads();
    const flexible = all.find((head) => head.dataset.column === FLEXIBLE) ?? all.at(-1);
    box.style.setProperty('--columns', all.map((head) =>
      head === flexible ? `minmax(${asLength(head.dataset.width)}, 1fr)` : asLength(head.dataset.width)).join(' '));
    box.style.setProperty('--columns-width', asLength(all.reduce((sum, head) => sum + Number(head.dataset.width) + GAP, BEFORE)));
  };

  const keep = () => schublade.ask('/mail/columns', {
    method: 'POST',
    fields: new URLSearchParams({
      here: document.querySelector('.main').dataset.address,
      columns: heads().map((head) => `${head.dataset.column}:${head.dataset.width}`).join(','),
    }),
  });

  const resize = (head, width) => {
    head.dataset.width = String(Math.max(NARROWEST, Math.round(width)));
    lay();
  };

  /** Puts a column where another is; the rows come anew. */
  const put = async (head, other) => {
    if (!other || head === other) return;
    const all = heads();
    if (all.indexOf(head) < all.indexOf(other)) other.after(head);
    else other.before(head);
    lay();
    await keep();
    document.dispatchEvent(new CustomEvent('mail-changed', { detail: 'columns' }));
  };

  document.addEventListener('pointerdown', (event) => {
    const head = event.target.closest('.grip')?.parentElement;
    if (!head) return;
    event.preventDefault();
    event.target.setPointerCapture(event.pointerId);
    const start = event.clientX;
    const width = head.getBoundingClientRect().width;
    const move = (now) => resize(head, asKept(width + now.clientX - start));
    event.target.addEventListener('pointermove', move);
    event.target.addEventListener('pointerup', () => {
      event.target.removeEventListener('pointermove', move);
      keep();
    }, { once: true });
  });

  document.addEventListener('dragstart', (event) => {
    moving = event.target.closest?.('#heads .head') ?? null;
    if (moving) event.dataTransfer.setData('application/x-schublade-column', moving.dataset.column);
  });

  document.addEventListener('dragover', (event) => {
    const other = moving && event.target.closest?.('#heads .head');
    heads().forEach((head) => head.classList.toggle('over', head === other && head !== moving));
    if (other) event.preventDefault();
  });

  document.addEventListener('drop', (event) => {
    const other = moving && event.target.closest?.('#heads .head');
    if (!other) return;
    event.preventDefault();
    put(moving, other);
  });

  document.addEventListener('dragend', () => {
    heads().forEach((head) => head.classList.remove('over'));
    moving = null;
  });

  document.addEventListener('keydown', (event) => {
    const head = event.target.closest?.('#heads .head');
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!head || !by || !(event.shiftKey || event.ctrlKey)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.shiftKey) {
      resize(head, asKept(head.getBoundingClientRect().width) + by * STEP);
      keep();
    } else {
      const all = heads();
      put(head, all[all.indexOf(head) + by]).then(() => event.target.focus());
    }
  }, true);

  document.addEventListener('htmx:load', lay);
  document.addEventListener('htmx:afterSettle', lay);
  lay();
})();
