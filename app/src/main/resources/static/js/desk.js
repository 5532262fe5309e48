/* The desk: opening messages, and what is done to those that are selected. */
document.addEventListener('alpine:init', () => {
  'use strict';

  const GLANCE_MILLIS = 1200;
  const QUICK_MILLIS = 80;
  const MOVES = ['archive', 'delete', 'file'];

  Alpine.data('desk', () => ({
    told: '',
    list: null,
    moves: false,
    opening: 0,
    pending: 0,
    stale: false,
    glance: null,
    listeners: new AbortController(),

    init() {
      this.list = new MessageList(this.$root.dataset.address);
      this.told = this.figures();
      this.moves = this.$root.dataset.leaves === 'true';
      const open = document.getElementById('sheet').dataset.message;
      if (open && this.list.row(open)) {
        this.list.select(open);
        this.glanceAt(open);
      }
      const on = (target, name, act) => target.addEventListener(name, act, { signal: this.listeners.signal });
      on(this.$root, 'click', (event) => this.click(event));
      on(document, 'click', (event) => this.clickInStrip(event));
      on(document, 'keydown', (event) => this.key(event));
      on(document, 'mail-changed', async (event) => {
        await this.refresh();
        if (event.detail === 'done' && this.list.current) this.open(this.list.current);
      });
      on(document, 'select-row', (event) => this.pick(event.detail, { quiet: true }));
      on(document, 'file-into', (event) => this.act('file', event.detail));
      on(document, 'htmx:afterSettle', (event) => {
        if (event.target.closest?.('#rows')) this.list.show();
      });
      document.getElementById('rows').focus({ preventScroll: true });
    },

    destroy() {
      clearTimeout(this.glance);
      this.listeners.abort();
    },

    figures() { return document.getElementById('figures').dataset.figures; },

    selectionChanged() {
      const count = this.list.selected.size;
      this.told = count > 1 ? `${count} selected` : this.figures();
    },

    click(event) {
      const row = event.target.closest('.row');
      if (row) {
        event.preventDefault();
        this.pick(row.dataset.id, { range: event.shiftKey, toggle: event.ctrlKey || event.metaKey });
        this.list.box.focus({ preventScroll: true });
        return;
      }
      const deed = event.target.closest('[data-deed]');
      if (deed) this.act(deed.dataset.deed);
    },

    clickInStrip(event) {
      const into = event.target.closest('[data-into]');
      if (into) this.act('file', { folder: into.dataset.into });
      if (event.target.closest('[data-pick]')) this.choose();
    },

    choose() {
      if (this.list.selected.size === 0) {
        schublade.tell('Select a message first: with the arrow keys, or a click.');
        return;
      }
      document.dispatchEvent(new CustomEvent('open-picker'));
    },

    key(event) {
      const inside = event.target === document.body || event.target === this.list.box || event.target.closest('.row, .sheet');
      if (!inside || event.altKey) return;
      if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
        event.preventDefault();
        this.list.selectAll();
        this.selectionChanged();
        return;
      }
      const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10, Home: -1e9, End: 1e9 }[event.key];
      if (!by || event.ctrlKey || event.metaKey || (event.target.closest('.text') && Math.abs(by) > 1)) return;
      const row = this.list.neighbour(by);
      event.preventDefault();
      if (row) this.pick(row.dataset.id, { range: event.shiftKey });
    },

    /** Selects a row and, unless more are being gathered, opens it. */
    pick(id, how) {
      this.list.select(id, how);
      this.selectionChanged();
      if (!how.range && !how.toggle && !how.quiet) this.open(id);
    },

    /** Shows a message, once what was done before is done: what the strip offers depends on it. */
    async open(id, before = null) {
      clearTimeout(this.glance);
      this.$root.classList.add('reading');
      await before;
      // When going through the list quickly, only the message that one stops at is fetched.
      await new Promise((resolve) => setTimeout(resolve, this.opening ? QUICK_MILLIS : 0));
      if (this.list.current !== id) return;
      this.opening++;
      const wanted = () => this.$root.isConnected && this.list.current === id;
      await schublade.ask('/message/' + id, { into: 'sheet', still: wanted });
      this.opening--;
      if (!wanted()) return;
      const address = new URL(location.href);
      address.searchParams.set('open', id);
      history.replaceState(history.state, '', address);
      this.glanceAt(id);
    },

    /** A message that stays open for a moment has been read. */
    glanceAt(id) {
      if (!this.list.row(id)?.classList.contains('new')) return;
      this.glance = setTimeout(() => {
        this.list.row(id)?.classList.remove('new');
        this.post('glance', [id], {});
      }, GLANCE_MILLIS);
    },

    closeSheet() {
      this.$root.classList.remove('reading');
      this.list.box.focus({ preventScroll: true });
    },

    act(deed, extra = {}) {
      const rows = this.list.chosen;
      if (rows.length === 0) {
        schublade.tell('Select a message first: with the arrow keys, or a click.');
        return;
      }
      clearTimeout(this.glance);
      const ids = rows.map((row) => row.dataset.id);
      if (MOVES.includes(deed)) {
        const posted = this.post(deed, ids, extra);
        if (this.moves) this.goOn(posted);
      } else {
        this.post(this.mark(deed, rows), ids, extra);
      }
    },

    /** The rows leave at once; the next message is shown. */
    goOn(posted) {
      const next = this.list.takeOut();
      if (next) {
        const gathering = !document.getElementById('sheet').dataset.message;
        this.list.select(next.dataset.id);
        if (!gathering) this.open(next.dataset.id, posted);
      } else {
        schublade.ask('/message/none', { into: 'sheet', still: () => this.$root.isConnected });
      }
      this.selectionChanged();
    },

    /** Marks rows the other way than most of them are; returns the deed that is to be sent. */
    mark(deed, rows) {
      if (deed === 'flag') {
        const flag = rows.some((row) => !row.classList.contains('flagged'));
        rows.forEach((row) => row.classList.toggle('flagged', flag));
        return flag ? 'flag' : 'unflag';
      }
      const unread = rows.every((row) => !row.classList.contains('new'));
      rows.forEach((row) => row.classList.toggle('new', unread));
      return unread ? 'unread' : 'read';
    },

    async post(deed, ids, extra) {
      this.pending++;
      const done = await schublade.send('/act', { deed, ids, ...extra });
      this.pending--;
      if (!done || this.stale) this.refresh();
    },

    /** Fetches the list anew, but not while it is ahead of what the server knows. */
    async refresh() {
      if (!this.$root.isConnected) return;
      if (this.pending > 0) {
        this.stale = true;
        return;
      }
      this.stale = false;
      await this.list.refresh();
      this.selectionChanged();
    },
  }));
});
