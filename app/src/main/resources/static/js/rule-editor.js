/* The rule's form: the trial run follows what is typed; a line's kind decides what is proposed for its text. */
document.addEventListener('alpine:init', () => {
  'use strict';

  Alpine.data('ruleEditor', () => ({
    init() {
      this.$root.querySelector('[data-first] [data-text]')?.focus({ preventScroll: true });
    },

    /** A kind was chosen: its text gets that kind's hint and proposals. */
    kindChosen(event) {
      const select = event.target.closest('select[data-kind]');
      if (!select) return;
      const { hint, list, text } = select.selectedOptions[0].dataset;
      const input = select.closest('.line').querySelector('[data-text]');
      input.placeholder = hint;
      input.hidden = text === 'false';
      if (list) input.setAttribute('list', list);
      else input.removeAttribute('list');
    },
  }));
});
