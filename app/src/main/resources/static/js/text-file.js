/* A file that is chosen comes into a text field, where it can be looked at before it is sent. */
(() => {
  'use strict';

  document.addEventListener('change', async (event) => {
    const field = document.getElementById(event.target.dataset.readsInto ?? '');
    const file = event.target.files?.[0];
    if (!field || !file) return;
    if (file.size > field.maxLength) {
      schublade.tell(`${file.name} is too large: ${field.maxLength.toLocaleString('en')} signs are the limit.`, true);
      return;
    }
    field.value = await file.text();
  });
})();
