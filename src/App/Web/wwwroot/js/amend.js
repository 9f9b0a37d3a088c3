// The form of an amendment shows the fields that its kind has.

for (const form of /** @type {NodeListOf<HTMLFormElement>} */ (document.querySelectorAll('form.amend'))) {
  const kind = /** @type {HTMLSelectElement} */ (form.querySelector('select[name="Do"]'));
  const show = () => {
    for (const field of /** @type {NodeListOf<HTMLElement>} */ (form.querySelectorAll('[data-for]'))) {
      const shown = (field.dataset.for ?? '').split(',').includes(kind.value);
      field.hidden = !shown;
      for (const input of field.querySelectorAll('input, select')) input.toggleAttribute('disabled', !shown);
    }
  };
  kind.addEventListener('change', show);
  show();
}
