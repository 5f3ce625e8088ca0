import { fireEvent, screen } from '@testing-library/react';

/** What jsdom lacks and the controls need: they measure themselves, and there is nothing to measure. */
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
/** Types a value into a field and takes it over with a key. */
export function typeInto(label: string, value: string, key = 'Enter') {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.keyDown(field, { key });
}
