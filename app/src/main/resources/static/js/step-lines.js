/* The page of routines. A line that says what is to be done shows a field for its text only where one is needed, with a hint and proposals; below the last one there is always another. */
document.addEventListener('change', (event) => {
  'use strict';
  if (!event.target.matches('.step select[data-kind]')) return;
  const { hint, list, text } = event.target.selectedOptions[0].dataset;
  const step = event.target.closest('.step');
  const field = step.querySelector('input[data-text]');
  field.hidden = text !== 'true';
  field.placeholder = hint ?? '';
  if (list) field.setAttribute('list', list);
  else field.removeAttribute('list');
  if (event.target.value !== '' && !step.nextElementSibling?.matches('.step')) {
    const next = step.cloneNode(true);
    next.querySelector('select').value = '';
    Object.assign(next.querySelector('input[data-text]'), { value: '', hidden: true });
    step.after(next);
  }
  if (!field.hidden) field.focus();
});

/* They are put in order by dragging their headings. */
(() => {
  'use strict';

  let dragged = null;
  let before = null;
  const mark = (routine) => {
    before?.classList.remove('over');
    before = routine;
    before?.classList.add('over');
  };

  document.addEventListener('dragstart', (event) => {
    dragged = event.target.closest?.('.routine h2[draggable]')?.closest('.routine') ?? null;
    if (dragged) event.dataTransfer.effectAllowed = 'move';
  });
  document.addEventListener('dragover', (event) => {
    if (!dragged) return;
    event.preventDefault();
    const place = event.target.closest?.('.routine[data-routine], #another');
    mark(place === dragged ? null : place);
  });
  document.addEventListener('drop', (event) => {
    if (!dragged) return;
    event.preventDefault();
    const form = document.getElementById('moves-routine');
    if (!before || !form) return;
    form.elements.before.value = before.dataset.routine ?? 0;
    form.action = `/routines/${dragged.dataset.routine}/place`;
    form.requestSubmit();
  });
  document.addEventListener('dragend', () => {
    dragged = null;
    mark(null);
  });
})();
