/* Finds something by a few letters: a folder to file into, a label, a place to go to. What is chosen is announced. */
document.addEventListener('alpine:init', () => {
  'use strict';

  Alpine.data('picker', () => ({
    listeners: new AbortController(),
    waiting: false,
    making: false,

    init() {
      document.addEventListener('open-picker', (event) => {
        if (event.detail.kind === this.$root.dataset.kind) this.open(event.detail.on ?? '');
      }, { signal: this.listeners.signal });
      document.addEventListener('labelled', (event) => {
        if (this.making && this.$root.open) this.goOn(event.detail.on);
      }, { signal: this.listeners.signal });
      this.$root.addEventListener('click', (event) => {
        if (event.target === this.$root) this.$root.close(); // Beside the sheet of the dialog.
      });
      this.$root.addEventListener('htmx:afterSettle', () => {
        this.name(this.options().find((one) => one.getAttribute('aria-selected') === 'true'));
        if (this.waiting && this.isAnswered()) this.chooseSelected();
      });
    },

    destroy() { this.listeners.abort(); },

    open(on) {
      this.waiting = false;
      this.$refs.letters.value = '';
      this.$root.showModal();
      this.goOn(on);
    },

    /** Asks for the choices anew; those that are on by now can be taken off. */
    goOn(on) {
      this.making = false;
      this.$refs.on.value = on;
      this.$refs.letters.select();
      this.$refs.letters.focus();
      htmx.trigger(this.$refs.letters, 'pick');
    },

    /** Whether the choices are those for what stands in the fields now, and not for what stood there before. */
    isAnswered() {
      const { asked } = this.$root.querySelector('.choices').dataset;
      return asked === this.$refs.letters.value + '|' + this.$refs.on.value;
    },

    /** Enter can come before its choices: then it is for the first of those, even if Escape comes before them too. */
    chooseSelected() {
      this.waiting = !this.isAnswered();
      if (!this.waiting) this.choose(this.options().find((one) => one.getAttribute('aria-selected') === 'true'));
    },

    options() { return [...this.$root.querySelectorAll('[role=option]')]; },

    key(event) {
      if (event.key === 'Enter') {
        event.preventDefault();
        this.chooseSelected();
      }
      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        event.preventDefault();
        this.move(event.key === 'ArrowDown' ? 1 : -1);
      }
    },

    move(by) {
      const all = this.options();
      const at = all.findIndex((one) => one.getAttribute('aria-selected') === 'true');
      const to = Math.min(all.length - 1, Math.max(0, at + by));
      all.forEach((one, index) => one.setAttribute('aria-selected', String(index === to)));
      this.name(all[to]);
      all[to]?.scrollIntoView({ block: 'nearest' });
    },

    /** Which choice Enter takes is what is read out. */
    name(option) { this.$refs.letters.setAttribute('aria-activedescendant', option?.id ?? ''); },

    click(event) { this.choose(event.target.closest('[role=option]')); },

    /** A label is on or off now; the next one can be chosen at once, by other letters or as it stands. */
    turn(option) {
      const { place, on } = option.dataset;
      const now = new Set(this.$refs.on.value.split(' ').filter(Boolean));
      if (on === 'true') now.add(place);
      else now.delete(place);
      this.goOn([...now].join(' '));
    },

    choose(option) {
      if (!option || this.making) return;
      const { ...chosen } = option.dataset;
      if (this.$root.dataset.kind !== 'label') this.$root.close();
      else if (chosen.place) this.turn(option);
      else this.making = true; // It goes on when there is such a label.
      document.dispatchEvent(new CustomEvent('picked-' + this.$root.dataset.kind, { detail: chosen }));
    },
  }));

  /** Asks for an account. */
  Alpine.data('carryDialog', () => ({
    listeners: new AbortController(),

    init() {
      document.addEventListener('open-picker', (event) => {
        if (event.detail.kind === 'carry') this.$root.showModal();
      }, { signal: this.listeners.signal });
    },

    destroy() { this.listeners.abort(); },
    leave() { this.$root.close(); },

    choose(event) {
      const place = event.target.closest('[data-place]')?.dataset.place;
      if (!place) return;
      this.$root.close();
      document.dispatchEvent(new CustomEvent('picked-carry', { detail: { place } }));
    },
  }));

  /** Asks for one of a few things, a category or a flag, by its digit: as it is typed, or as it lies on the keyboard. */
  Alpine.data('digitDialog', () => ({
    listeners: new AbortController(),

    init() {
      document.addEventListener('open-picker', (event) => {
        if (event.detail.kind === this.$root.dataset.kind) this.$root.showModal();
      }, { signal: this.listeners.signal });
    },

    destroy() { this.listeners.abort(); },
    leave() { this.$root.close(); },
    click(event) { this.choose(event.target.closest('[data-digit]')); },

    key(event) {
      const digit = /^\d$/.test(event.key) ? event.key : /^Digit\d$/.exec(event.code)?.[0].slice(-1);
      const button = digit && this.$root.querySelector(`[data-digit="${digit}"]`);
      if (!button || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      this.choose(button);
    },

    choose(button) {
      if (!button) return;
      this.$root.close();
      document.dispatchEvent(new CustomEvent(`picked-${this.$root.dataset.kind}`, { detail: { place: button.dataset.place } }));
    },
  }));

  /** Asks for a day, and a time of it if one wants: a due date, or that of the tickler. */
  Alpine.data('dayDialog', () => ({
    listeners: new AbortController(),

    init() {
      document.addEventListener('open-picker', (event) => {
        if (event.detail.kind === this.$root.dataset.kind) this.$root.showModal();
      }, { signal: this.listeners.signal });
    },

    destroy() { this.listeners.abort(); },
    choose(event) {
      const { day, writes } = event.target.closest('[data-day]')?.dataset ?? {};
      this.announce(day, { writes: writes !== undefined });
    },
    /** A time without a day is one of today. */
    typed() {
      const { day, time } = this.$refs;
      this.announce(time.value ? `${day.value || this.$root.dataset.today} ${time.value}` : day.value);
    },
    clear() { this.announce('', { cleared: true }); },
    leave() { this.$root.close(); },

    /** @param writes whether it comes back when its sender writes, too */
    announce(due, { cleared = false, writes = false } = {}) {
      if (!due && !cleared) return;
      this.$root.close();
      document.dispatchEvent(new CustomEvent('picked-' + this.$root.dataset.kind, { detail: writes ? { due, on: true } : { due } }));
    },
  }));
});
