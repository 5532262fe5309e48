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
      this.$root.querySelectorAll('.line.of-days').forEach((line) => this.showDays(line));
      if (this.$root.dataset.asKept && draft.get()) this.restore();
      else this.follow();
      if (this.$root.elements.id.value === '0' && !this.$root.contains(document.activeElement)) this.firstStop()?.focus();
    },

    /** Of a new rule: what is still to be said of one that was made from a message, else its first line. */
    firstStop() {
      const fields = (part) => [...this.$root.querySelectorAll(`[data-part=${part}] input[data-text]:not([hidden])`)];
      const isMade = fields('when').some((field) => field.value !== '');
      return (isMade && fields('then').find((field) => field.value === '')) || this.$root.querySelector('[data-kind]');
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
      if (event.target.matches('[data-day]')) this.dayChosen(event.target.closest('.line'));
      if (event.target.matches('.of-days input[data-text]')) this.showDays(event.target.closest('.line'));
      if (event.target.matches('select.not')) event.target.closest('.line').classList.toggle('negated', event.target.value === 'not');
      draft.keep(this.$root);
      clearTimeout(this.typed);
      this.asked++; // What is asked already is an answer to what stood there before.
      this.typed = setTimeout(() => this.fetchPart('/rules/trial', 'trial'), event.type === 'change' ? 0 : PAUSE_MILLIS);
    },

    /** A kind was chosen: its text gets that kind's hint and proposals. */
    kindChosen(select) {
      const { hint, list, text, match, group, days } = select.selectedOptions[0].dataset;
      const line = select.closest('.line');
      const input = line.querySelector('input[data-text]');
      line.classList.toggle('worded', match === 'true');
      line.classList.toggle('group', group === 'true');
      line.classList.toggle('of-days', days === 'true');
      input.placeholder = hint ?? '';
      input.hidden = text === 'false';
      if (list) input.setAttribute('list', list);
      else input.removeAttribute('list');
    },

    /** The calendars show the days that the text names, where it names them by date. */
    showDays(line) {
      const { value } = line.querySelector('input[data-text]');
      const [first = '', last = first] = value.match(/\d{4}-\d\d-\d\d/g) ?? [];
      const [from, until] = line.querySelectorAll('[data-day]');
      from.value = value.startsWith('until') ? '' : first;
      until.value = value.startsWith('from') ? '' : last;
    },

    /** What was chosen in a calendar stands in the text. */
    dayChosen(line) {
      const [first, last] = [...line.querySelectorAll('[data-day]')].map((day) => day.value);
      line.querySelector('input[data-text]').value =
        first && last ? `${first} to ${last}` : first ? `from ${first}` : last ? `until ${last}` : '';
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
      if (remove) await this.takeOut(remove);
      if (remove || add) setTimeout(() => draft.keep(document.getElementById('rule-form')));
      if (add) await this.addLine(add);
    },

    lines(part) { return [...document.querySelectorAll(`#rule-form [data-part=${part}] .line:not(.last)`)]; },

    async addLine(where) {
      await this.fetchPart('/rules/form', 'rule-form', { add: where });
      const lines = this.lines(where.split('-')[0]);
      (lines.find(line => line.querySelector('input[data-text]')?.value === '' && !line.classList.contains('group')) ?? lines.at(-1))
        ?.querySelector('[data-kind]')?.focus();
    },

    /** The line that takes its place has the focus then, else the one above, else what adds one. */
    async takeOut(which) {
      const [part, at] = which.split('-');
      await this.fetchPart('/rules/form', 'rule-form', { remove: which });
      const lines = this.lines(part);
      (lines[at] ?? lines.at(-1))?.querySelector('[data-kind]')?.focus();
      if (lines.length === 0) document.querySelector(`#rule-form [data-part=${part}] .more-lines`)?.focus();
    },

    /** Sent by the form, which stays: the button may be replaced by a trial run that ends meanwhile. */
    save(run) {
      clearTimeout(this.timer);
      clearTimeout(this.typed);
      this.asked++;
      schublade.toPage(); // After that the keys are the page's.
      htmx.ajax('POST', '/rules', { source: this.$root, target: 'body', swap: 'innerHTML', values: run ? { run } : {} });
    },

    /** Enter adds a line, Delete takes one out, Ctrl+Enter saves; the trial's messages are one stop, gone through by arrows. */
    key(event) {
      const { target } = event;
      const line = target.closest('.line:not(.last)');
      const control = event.ctrlKey || event.metaKey;
      if (event.isComposing) return;
      // Enter behind an arrow takes a proposal of the browser, and nothing else.
      const choosing = target.dataset.choosing === 'yes' && event.key === 'Enter' && !control;
      target.dataset.choosing = target.matches('input[list]') && /^Arrow(Down|Up)$/.test(event.key) ? 'yes' : '';
      if (choosing) {
        event.preventDefault();
        return;
      }
      if (event.key === 'Enter' && control) {
        event.preventDefault();
        this.saveByKey();
      } else if (event.key === 'Enter' && target.matches('input, select')) {
        event.preventDefault();
        if (line && !event.repeat) this.addLine(line.closest('[data-part]').dataset.part).then(() => draft.keep(document.getElementById('rule-form')));
      } else if (event.key === 'Delete' && line && !control && (target.matches('select') || (target.matches('input') && !target.value))) {
        event.preventDefault();
        this.takeOut(line.querySelector('[data-remove]').dataset.remove).then(() => draft.keep(document.getElementById('rule-form')));
      } else if (['ArrowDown', 'ArrowUp'].includes(event.key) && target.closest('[data-one-stop]')) {
        event.preventDefault();
        const stops = [...target.closest('[data-one-stop]').querySelectorAll('input[type=checkbox], button')];
        const to = stops.indexOf(target) + (event.key === 'ArrowDown' ? 1 : -1);
        stops[Math.max(0, Math.min(stops.length - 1, to))]?.focus();
      }
    },

    /** What the first of the buttons does that can be pressed, once the trial run that they wait for has ended. */
    async saveByKey() {
      while (this.typed || document.getElementById('trial')?.dataset.scanning === 'true') {
        await new Promise((resolve) => setTimeout(resolve, FOLLOW_MILLIS));
        if (!this.$root.isConnected) return;
      }
      const button = document.querySelector('#trial [data-save]:not(:disabled)');
      if (button) this.save(button.value);
      else schublade.tell(document.querySelector('#trial .trial-says')?.textContent.trim() ?? 'This rule cannot be saved yet.', true);
    },
  }));
});
