/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { BottomBar, SlotProvider, useSlot } from './BottomBar';

function Frame() {
  const { setHint, setActions } = useSlot();
  return (
    <footer>
      <p ref={setHint} role="note" />
      <div ref={setActions} />
    </footer>
  );
}

test('the next step is done by its button and by Ctrl Enter from any field, but not while it cannot be', async () => {
  const user = userEvent.setup();
  let done = 0;
  const page = (disabled: boolean) => (
    <SlotProvider>
      <input aria-label="Note" />
      <BottomBar hint="Enter takes a line" next={{ label: 'Place order', run: () => (done += 1), disabled }} />
      <Frame />
    </SlotProvider>
  );
  const { rerender } = render(page(false));
  expect(screen.getByRole('note').textContent).toBe('Enter takes a line');
  await user.click(screen.getByRole('button', { name: /Place order/ }));
  await user.click(screen.getByLabelText('Note'));
  await user.keyboard('{Control>}{Enter}{/Control}');
  expect(done).toBe(2);
  await user.keyboard('{Enter}');
  expect(done).toBe(2);
  rerender(page(true));
  await user.keyboard('{Control>}{Enter}{/Control}');
  expect(done).toBe(2);
});
