/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { fireEvent, render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useLayoutEffect } from 'react';
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

test('Ctrl Enter counts from the moment that a page is there, for that page; held down it counts once', () => {
  const done: string[] = [];
  const step = (label: string) => ({ label, run: () => void done.push(label) });
  const press = (repeat = false) => fireEvent.keyDown(window, { key: 'Enter', ctrlKey: true, repeat });
  /** Pressed before the browser has drawn the page. */
  const AtOnce = () => {
    useLayoutEffect(() => void press(), []);
    return null;
  };
  const page = (label: string) => (
    <SlotProvider key={label}>
      <BottomBar next={step(label)} />
      <AtOnce />
    </SlotProvider>
  );
  const { rerender } = render(page('Order'));
  expect(done).toEqual(['Order']);
  rerender(page('Place'));
  expect(done).toEqual(['Order', 'Place']);
  press(true);
  expect(done).toHaveLength(2);
});
