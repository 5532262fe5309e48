/* Proposes people as their names or addresses are typed, in fields with one of these lists. */
(() => {
  'use strict';

  const PAUSE_MILLIS = 120;
  let timer = null;
  let asked = 0;

  const BARE = ['known-sender', 'known-reply_to'];

  const propose = async (input) => {
    const number = ++asked;
    const id = input.getAttribute('list');
    const found = await schublade.fetchJson('/people/like?' + new URLSearchParams({ typed: input.value, named: !BARE.includes(id) }));
    if (!found || number !== asked || !input.isConnected) return;
    const list = document.getElementById(id) ?? document.body.appendChild(Object.assign(document.createElement('datalist'), { id }));
    list.replaceChildren(...found.map((value) => Object.assign(document.createElement('option'), { value })));
  };

  document.addEventListener('input', (event) => {
    if (!event.target.matches('[list=known-people], [list=known-sender], [list=known-reply_to]')) return;
    clearTimeout(timer);
    // What was chosen from the list comes as one, and behind // stands a text: there is nothing to propose.
    if (event.inputType === 'insertReplacementText' || !event.inputType || event.target.value.includes('//')) return;
    timer = setTimeout(() => propose(event.target), PAUSE_MILLIS);
  });
})();
