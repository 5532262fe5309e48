/* What is wrong is tied to the field that it is about: the one whose text it quotes, or the only one of the form. */
(() => {
  'use strict';

  const ID = 'field-problem';

  const clear = () => {
    document.getElementById(ID)?.remove();
    document.querySelectorAll('[aria-invalid=true]').forEach((field) => {
      field.removeAttribute('aria-invalid');
      field.removeAttribute('aria-describedby');
    });
  };

  const tie = (form, sentence) => {
    clear();
    const quoted = [...sentence.matchAll(/“([^”]+)”/g)].map((one) => one[1]);
    const fields = [...form.elements].filter((one) => one.matches('input:not([type=hidden], [type=checkbox], [type=radio]), textarea') && one.checkVisibility());
    const field = fields.find((one) => one.value.trim() && quoted.some((part) => one.value.includes(part))) ?? (fields.length === 1 ? fields[0] : null);
    if (!field) return;
    const said = Object.assign(document.createElement('span'), { id: ID, className: 'visually-hidden', textContent: sentence });
    field.after(said);
    field.setAttribute('aria-invalid', 'true');
    field.setAttribute('aria-describedby', ID);
    field.focus();
  };

  document.addEventListener('htmx:afterRequest', ({ detail }) => {
    const form = detail.elt.closest?.('form');
    if (detail.xhr.status === 422 && form?.isConnected) tie(form, document.querySelector('#notice .told')?.textContent ?? '');
  });

  document.addEventListener('htmx:load', ({ target }) => {
    const alert = target.querySelector?.('main form [role=alert], main section > [role=alert]');
    const form = alert?.closest('form') ?? alert?.parentElement.querySelector('form');
    if (form) tie(form, alert.textContent.trim());
  });

  document.addEventListener('input', (event) => { if (event.target.matches('[aria-invalid=true]')) clear(); });
})();
