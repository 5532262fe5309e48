/* Makes a folder, in the one where the user stands. */
document.addEventListener('alpine:init', () => {
  'use strict';

  Alpine.data('folderForm', () => ({
    opened: false,
    get closed() { return !this.opened; },

    open() {
      const here = document.querySelector('#cabinet .drawer a[aria-current=page][data-folder]:not(#place-inbox)');
      this.opened = true;
      queueMicrotask(() => { // As soon as it is shown, so that no letter typed at once is lost.
        const input = this.$refs.path;
        input.value = here ? here.dataset.name + ' / ' : '';
        input.focus();
        input.setSelectionRange(input.value.length, input.value.length);
      });
    },

    close() {
      this.opened = false;
      document.getElementById('rows')?.focus({ preventScroll: true });
    },

    async make() {
      if (await schublade.send('/folders', { path: this.$refs.path.value })) this.close();
    },
  }));
});
