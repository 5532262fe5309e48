/* The rule's form: the trial run follows what is typed; lines come and go. */
document.addEventListener('alpine:init', () => {
  'use strict';

  const PAUSE_MILLIS = 250;
  const FOLLOW_MILLIS = 50; // The server waits before it answers.

  /** What is being written of a rule stays with its page until it is saved, whatever becomes of the page. */
  const draft = {
    key: () => `schublade-rule ${document.querySelector('[data-person]')?.dataset.person} ${location.pathname}${location.search}`,
    get: () => sessionStorage.getItem(draft.key()),
    keep: (form) => {
      const fields = new URLSearchParams(new FormData(form));
      ['_csrf', 'scan', 'listed', 'ticked'].forEach((one) => fields.delete(one));
      sessionStorage.setItem(draft.key(), fields);
    },
    forget: () => sessionStorage.removeItem(draft.key()),
  };

  // Saved: the address is still that of the form then.
  document.addEventListener('htmx:beforeSwap', (event) => {
    const { requestConfig, xhr } = event.detail;
    if (requestConfig?.verb === 'post' && requestConfig.path === '/rules' && xhr.status < 400) draft.forget();
  });

  Alpine.data('ruleEditor', () => ({
    asked: 0,
    timer: null,
    typed: null,

    init() {
      if (this.$root.dataset.asKept && draft.get()) this.restore();
      else this.follow();
    },

    destroy() {
      clearTimeout(this.timer);
      clearTimeout(this.typed);
    },

    /** The form as it was left. */
    async restore() {
      const still = () => this.$root.isConnected;
      if (!(await schublade.ask('/rules/form', { method: 'POST', fields: new URLSearchParams(draft.get()), into: 'rule-form', still }))) return;
      document.getElementById('rule-begun').hidden = false;
    },

    /** A trial run that goes on is asked how far it is, until it has ended or another one has begun. */
    follow() {
      if (this.typed || document.getElementById('trial')?.dataset.scanning !== 'true') return;
      clearTimeout(this.timer);
      this.timer = setTimeout(() => this.fetchPart('/rules/trial', 'trial', { follow: 'on' }), FOLLOW_MILLIS);
    },

    /** Fetches a part of the page for what stands in the form now; only the latest answer counts. */
    async fetchPart(address, into, more = {}) {
      clearTimeout(this.timer);
      clearTimeout(this.typed);
      this.typed = null;
      const number = ++this.asked;
      const fields = new URLSearchParams(new FormData(this.$root));
      Object.entries(more).forEach(([name, value]) => fields.append(name, value));
      await schublade.ask(address, {
        method: 'POST', fields, into, still: () => this.$root.isConnected && this.asked === number,
      });
      if (this.asked === number && this.$root.isConnected) this.follow();
    },

    changed(event) {
      if (event.target.matches('select[data-kind]')) this.kindChosen(event.target);
      if (event.target.matches('select.not')) event.target.closest('.line').classList.toggle('negated', event.target.value === 'not');
      draft.keep(this.$root);
      clearTimeout(this.typed);
      this.asked++; // What is asked already is an answer to what stood there before.
      this.typed = setTimeout(() => this.fetchPart('/rules/trial', 'trial'), event.type === 'change' ? 0 : PAUSE_MILLIS);
    },

    /** A kind was chosen: its text gets that kind's hint and proposals. */
    kindChosen(select) {
      const { hint, list, text, match, group } = select.selectedOptions[0].dataset;
      const line = select.closest('.line');
      const input = line.querySelector('input[data-text]');
      line.classList.toggle('worded', match === 'true');
      line.classList.toggle('group', group === 'true');
      input.placeholder = hint ?? '';
      input.hidden = text === 'false';
      if (list) input.setAttribute('list', list);
      else input.removeAttribute('list');
    },

    async click(event) {
      const button = event.target.closest('button');
      const { add, remove, all, save, stop, anew } = button?.dataset ?? {};
      if (anew !== undefined) {
        draft.forget();
        location.reload();
      }
      if (save !== undefined) {
        event.preventDefault();
        this.save(button.value);
      }
      if (stop !== undefined) await this.fetchPart('/rules/trial', 'trial', { follow: 'on', stop: 'on' });
      if (all) await this.fetchPart('/rules/trial', 'trial', { all });
      if (remove) await this.fetchPart('/rules/form', 'rule-form', { remove });
      if (remove || add) setTimeout(() => draft.keep(document.getElementById('rule-form')));
      if (add) {
        await this.fetchPart('/rules/form', 'rule-form', { add });
        const lines = [...document.querySelectorAll(`#rule-form [data-part=${add.split('-')[0]}] .line`)];
        (lines.find(line => line.querySelector('input[data-text]')?.value === '' && !line.classList.contains('group')) ?? lines.at(-1))
          ?.querySelector('[data-kind]')?.focus();
      }
    },

    /** Sent by the form, which stays: the button may be replaced by a trial run that ends meanwhile. */
    save(run) {
      clearTimeout(this.timer);
      clearTimeout(this.typed);
      this.asked++;
      htmx.ajax('POST', '/rules', { source: this.$root, target: 'body', swap: 'innerHTML', values: run ? { run } : {} });
    },

    /** Enter in a line shows what it does; a rule is saved by its buttons only. */
    enter(event) {
      if (event.target.matches('input')) event.preventDefault();
    },
  }));
});
