// What is typed, ticked or chosen before a part of a screen has its script is handed to it once it has: on a slow
// machine seconds lie between. Loaded before anything can be typed into. What a browser fills in by itself when a page
// is loaded anew is nobody's typing.
(() => {
  const early = new Set();
  document.addEventListener(
    'input',
    ({ isTrusted, target }) => {
      if (isTrusted && target.closest('astro-island[ssr]')) early.add(target);
    },
    true,
  );
  const send = (field, type) => field.dispatchEvent(new Event(type, { bubbles: true }));
  const own = (field, what) => Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), what);
  const hand = (field) => {
    const { type, value, checked } = field;
    // Brings the script to take the field over at once, if it has not yet.
    send(field, 'input');
    if (type === 'checkbox' || type === 'radio') {
      field.checked = !checked;
      field.click();
    } else if (field instanceof HTMLSelectElement) {
      field.value = value;
      send(field, 'change');
    } else {
      // React tells of a value only where it is another than the one it saw last.
      field.value = '';
      own(field, 'value').set.call(field, value);
      send(field, 'input');
    }
  };
  // Told to the island itself, so it is met on the way down.
  document.addEventListener(
    'astro:hydrate',
    ({ target }) => {
      for (const field of early)
        if (target.contains(field)) {
          early.delete(field);
          hand(field);
        }
    },
    true,
  );
})();
