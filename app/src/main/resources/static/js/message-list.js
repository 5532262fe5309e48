/* The rows of the list: which are selected, which one is current, and fetching them anew without a jump. */
(() => {
  'use strict';

  const MOST_ROWS = 1000;

  class MessageList {
    constructor(address) {
      this.address = address;
      this.selected = new Set();
      this.current = null;
      this.anchor = null;
      this.everything = false;
    }

    get box() { return document.getElementById('rows'); }
    get scroll() { return document.querySelector('.list .scroll'); }
    get rows() { return [...(this.box?.querySelectorAll('.row') ?? [])]; }
    row(id) { return document.getElementById('m' + id); }
    /** How many there are, as far as that has been counted. */
    get size() { return Number(document.getElementById('pills')?.dataset.size ?? 0); }
    get conversations() { return document.querySelector('.main')?.dataset.conversations === 'true'; }
    get isAllSelected() { return this.selected.size > 0 && this.selected.size === this.rows.length; }
    get chosen() { return [...this.selected].map((id) => this.row(id)).filter(Boolean); }

    /** Selects one row: alone, with those up to it (range), or in addition (toggle). */
    select(id, { range = false, toggle = false } = {}) {
      this.everything = false;
      if (range && this.anchor) {
        const ids = this.rows.map((row) => row.dataset.id);
        const [from, to] = [ids.indexOf(this.anchor), ids.indexOf(id)].sort((a, b) => a - b);
        this.selected = new Set(from < 0 ? [id] : ids.slice(from, to + 1));
      } else if (toggle) {
        if (!this.selected.delete(id)) this.selected.add(id);
        this.anchor = id;
      } else {
        this.selected = new Set([id]);
        this.anchor = id;
      }
      this.current = id;
      this.show();
      this.row(id)?.scrollIntoView({ block: 'nearest' });
    }

    selectAll() {
      this.selected = new Set(this.rows.map((row) => row.dataset.id));
      this.show();
    }

    selectEverything() {
      this.selectAll();
      this.everything = true;
    }

    /** How the selection is named to the server. */
    meant() {
      if (this.everything) return { all: this.address };
      const ids = this.chosen.map((row) => row.dataset.id);
      const folded = this.conversations && this.chosen.some((row) => row.classList.contains('many') && !this.isOpen(row));
      return folded ? { ids, conversations: this.address } : { ids };
    }

    /** The ids of the labels that all selected messages have. */
    sharedLabels() {
      const all = this.chosen.map((row) => (row.dataset.labels ?? '').split(' ').filter(Boolean));
      return (all[0] ?? []).filter((label) => all.every((labels) => labels.includes(label)));
    }

    /** Whether all selected messages have this category already. */
    allHave(category) { return this.chosen.every((row) => (row.dataset.categories ?? '').split(' ').includes(category)); }

    isOpen(row) { return row.querySelector('.fold')?.dataset.open === 'true'; }

    /** Shows the other messages of a row's conversation below it, or folds them again. */
    async toggleFold(row, open = !this.isOpen(row)) {
      const fold = row.querySelector('.fold');
      if (!fold || open === this.isOpen(row)) return;
      fold.dataset.open = String(open);
      if (open) {
        const slot = document.createElement('div');
        slot.id = 'unfolded-' + row.dataset.id;
        slot.setAttribute('role', 'presentation');
        row.after(slot);
        await schublade.ask('/mail/conversation/' + row.dataset.id + '?' + new URLSearchParams({ here: this.address }),
          { into: slot.id, still: () => slot.isConnected });
      } else {
        while (row.nextElementSibling?.classList.contains('inner')) row.nextElementSibling.remove();
      }
      this.show();
    }

    /** What came in above what is in view, where the list is scrolled. */
    tellNews(count) {
      const button = document.getElementById('news');
      if (!button || count === 0) return;
      const all = count + Number(button.hidden ? 0 : button.dataset.count);
      button.dataset.count = String(all);
      button.textContent = `${all} new`;
      button.hidden = false;
    }

    /** Counts what each filter would leave. */
    /** How many there are, all in all and with each filter. */
    async count() {
      if (await schublade.ask(this.address, { into: 'pills', still: () => Boolean(this.box) })) document.dispatchEvent(new Event('list-counted'));
    }

    /** Writes the selection into the page. */
    show() {
      if (!this.box) return; // The user has gone to another page.
      let place = 0;
      for (const row of this.rows) {
        row.setAttribute('aria-selected', String(this.selected.has(row.dataset.id)));
        row.setAttribute('aria-setsize', String(this.size || -1));
        row.setAttribute('aria-posinset', String(++place));
        row.classList.toggle('current', row.dataset.id === this.current);
      }
      if (this.current && this.row(this.current)) this.box.setAttribute('aria-activedescendant', 'm' + this.current);
      else this.box.removeAttribute('aria-activedescendant');
    }

    /** The row so many places from the current one; the first or last where there is none. */
    neighbour(by) {
      const rows = this.rows;
      const at = rows.findIndex((row) => row.dataset.id === this.current);
      if (at < 0) return by > 0 ? rows[0] : rows.at(-1);
      return rows[Math.min(rows.length - 1, Math.max(0, at + by))];
    }

    /** Takes the selected rows out; returns the one that stands where they were, if any is left. */
    takeOut() {
      const rows = this.rows;
      const going = new Set(this.chosen);
      const last = rows.findLastIndex((row) => going.has(row));
      const next = rows.slice(last + 1).find((row) => !going.has(row)) ?? rows.slice(0, last).findLast((row) => !going.has(row));
      going.forEach((row) => row.remove());
      this.box.querySelectorAll('.div').forEach((heading) => {
        const after = heading.nextElementSibling;
        if (!after || after.classList.contains('div')) heading.remove();
      });
      this.selected.clear();
      this.everything = false;
      this.current = null;
      return next;
    }

    /** Where one is in the list, for coming back to it. */
    keepPlace() {
      if (!this.box) return;
      const place = { rows: this.rows.length, top: this.scroll.scrollTop, current: this.current };
      sessionStorage.setItem('schublade-place ' + this.address, JSON.stringify(place));
    }

    /** Shows again the part of the list in which a message stands that one was at. */
    async comeBackTo(id) {
      const place = JSON.parse(sessionStorage.getItem('schublade-place ' + this.address) ?? '{}');
      if (place.current !== id) return;
      const { scroll } = this;
      if (!this.row(id) && place.rows > this.rows.length) {
        await schublade.ask(this.address + (this.address.includes('?') ? '&' : '?') + 'rows=' + Math.min(place.rows, MOST_ROWS),
          { into: 'rows', still: () => scroll.isConnected });
      }
      if (scroll.isConnected) scroll.scrollTop = place.top;
    }

    /** Fetches the rows anew; what is in view stays where it is, what was selected stays selected. */
    async refresh() {
      const scroll = this.scroll;
      const shown = this.rows.length;
      const count = Math.min(shown, MOST_ROWS);
      // Far down in a long list nothing is fetched anew; the next change after coming back up does it.
      if (shown > count && scroll.scrollTop > scroll.scrollHeight * count / shown / 2) return;
      const top = scroll.getBoundingClientRect().top;
      const first = scroll.scrollTop > 0 ? this.rows.find((row) => row.getBoundingClientRect().bottom > top) : null;
      const offset = first ? first.getBoundingClientRect().top : 0;
      const focused = document.activeElement === this.box;
      const before = new Set(this.rows.map((row) => row.dataset.id));
      await schublade.ask(this.address + (this.address.includes('?') ? '&' : '?') + 'rows=' + count,
        { into: 'rows', still: () => scroll.isConnected });
      if (!scroll.isConnected) return; // The user has gone elsewhere.
      this.count();
      this.selected = new Set([...this.selected].filter((id) => this.row(id)));
      if (this.everything) this.selectEverything();
      this.show();
      const same = first && this.row(first.dataset.id);
      if (same) this.tellNews(this.rows.slice(0, this.rows.indexOf(same)).filter((row) => !before.has(row.dataset.id)).length);
      if (same) scroll.scrollTop += same.getBoundingClientRect().top - offset;
      if (focused) this.box.focus({ preventScroll: true });
    }
  }

  window.MessageList = MessageList;
})();
