/* A line that says what is to be done shows a field for its text only where one is needed, with a hint and proposals. */
document.addEventListener('change', (event) => {
  'use strict';
  if (!event.target.matches('.step select[data-kind]')) return;
  const { hint, list, text } = event.target.selectedOptions[0].dataset;
  const field = event.target.closest('.step').querySelector('[data-text]');
  field.hidden = text !== 'true';
  field.placeholder = hint ?? '';
  if (list) field.setAttribute('list', list);
  else field.removeAttribute('list');
  if (!field.hidden) field.focus();
});
