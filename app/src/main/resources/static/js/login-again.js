/* When the session has ended, one logs in where one is: nothing that was typed or pressed is lost, and it goes on. */
(() => {
  'use strict';

  let running = null;

  const fetchPage = async (address, options = {}) => new DOMParser().parseFromString(await (await fetch(address, options)).text(), 'text/html');
  const personOf = (page) => page.querySelector('[data-person]')?.dataset.person;

  /** Whether somebody is logged in by now, perhaps in another window; of another person the page is shown anew. */
  const isIn = (page) => {
    const person = personOf(page);
    if (!person) return false;
    if (person !== personOf(document)) location.assign('/');
    const { content, dataset } = page.querySelector('meta[name=csrf]');
    Object.assign(document.querySelector('meta[name=csrf]'), { content }).dataset.header = dataset.header;
    document.dispatchEvent(new Event('logged-in-again'));
    return true;
  };

  const askForPassword = (page) => new Promise((resolve) => {
    const dialog = document.getElementById('login-again-asked').content.firstElementChild.cloneNode(true);
    document.querySelector('.app').append(dialog);
    const form = dialog.querySelector('form');
    const problem = dialog.querySelector('.problem');
    let csrf = page.querySelector('input[name=_csrf]')?.value;
    const done = (result) => {
      dialog.close();
      dialog.remove();
      resolve(result);
    };
    const send = async (event) => {
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.submitter?.value === 'leave') {
        done(false);
        location.assign('/login');
        return;
      }
      try {
        const answer = await fetchPage('/login', { method: 'POST', body: new URLSearchParams({ username: form.dataset.login, password: form.elements.password.value, _csrf: csrf }) });
        if (isIn(answer)) {
          done(true);
          return;
        }
        csrf = answer.querySelector('input[name=_csrf]')?.value;
        problem.textContent = answer.querySelector('.problem')?.textContent ?? 'That did not work. Please try again.';
      } catch {
        problem.textContent = 'Schublade is not responding. Please try again in a moment.';
      }
      problem.hidden = false;
      form.elements.password.select();
    };
    form.addEventListener('submit', send);
    dialog.addEventListener('cancel', (event) => event.preventDefault());
    dialog.showModal();
  });

  const logInAgain = async () => {
    try {
      const page = await fetchPage('/');
      return isIn(page) || (page.querySelector('input[type=password]') ? await askForPassword(page) : false);
    } catch {
      return false;
    }
  };

  /** Resolves to whether the same person is logged in again. */
  schublade.logInAgain = () => (running ??= logInAgain().finally(() => { running = null; }));

  // What htmx asked for is asked for again.
  document.addEventListener('htmx:beforeOnLoad', async (event) => {
    const { xhr, requestConfig, boosted } = event.detail;
    if (![401, 403].includes(xhr.status)) return;
    event.preventDefault();
    const { verb, path, parameters, elt, target } = requestConfig;
    if (!await schublade.logInAgain()) return;
    if (verb === 'get' && boosted) schublade.go(path);
    else htmx.ajax(verb, path, { source: elt.isConnected ? elt : document.body, target, values: parameters });
  });
})();
