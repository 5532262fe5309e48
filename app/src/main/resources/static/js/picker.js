/* Finds a folder by a few letters and files into it. */
document.addEventListener('alpine:init', () => {
  'use strict';

  Alpine.data('picker', () => ({
    listeners: new AbortController(),

    init() {
      document.addEventListener('open-picker', () => this.open(), { signal: this.listeners.signal });
      this.$root.addEventListener('click', (event) => {
        if (event.target === this.$root) this.$root.close(); // Beside the sheet of the dialog.
      });
    },

    destroy() { this.listeners.abort(); },

    open() {
      this.$refs.letters.value = '';
      this.$root.showModal();
      htmx.trigger(this.$refs.letters, 'pick');
    },

    options() { return [...this.$root.querySelectorAll('[role=option]')]; },

    key(event) {
      if (event.key === 'Enter') {
        event.preventDefault();
        this.choose(this.options().find((one) => one.getAttribute('aria-selected') === 'true'));
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
      this.$refs.letters.setAttribute('aria-activedescendant', all[to]?.id ?? '');
    },

    click(event) { this.choose(event.target.closest('[role=option]')); },

    choose(option) {
      if (!option) return;
      this.$root.close();
      const { folder, path } = option.dataset;
      document.dispatchEvent(new CustomEvent('file-into', { detail: folder ? { folder } : { path } }));
    },
  }));
});
