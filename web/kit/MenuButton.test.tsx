/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, jest, test } from '@jest/globals';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { MenuButton } from './MenuButton';

test('it opens what can be done, by keyboard too, and gives the focus back to where one was', async () => {
  const user = userEvent.setup();
  const [first, second] = [jest.fn(), jest.fn()];
  render(
    <>
      <input aria-label="Quantity" />
      <MenuButton
        words="Fill 20"
        label="Fill what VASE is short of"
        place="gap"
        ways={[
          { words: 'Ship from Harbour shop', run: first },
          { words: 'Swap for URN', run: second },
        ]}
      />
    </>,
  );
  const field = screen.getByLabelText('Quantity');
  field.focus();
  // As a key elsewhere opens it: the focus is not on the button.
  const button = screen.getByRole('button', { name: 'Fill what VASE is short of' });
  expect(button.textContent).toBe('Fill 20…');
  document.querySelector<HTMLElement>('[data-menu="gap"]')?.click();
  await screen.findByRole('menu', { name: 'Fill what VASE is short of' });
  await user.keyboard('{ArrowDown}{Enter}');
  expect([first.mock.calls.length, second.mock.calls.length]).toEqual([0, 1]);
  await waitFor(() => expect(document.activeElement).toBe(field));
  expect(screen.queryByRole('menu')).toBeNull();
});

test('where nothing can be done there is nothing', () => {
  const { container } = render(<MenuButton words="More" label="More" ways={[]} />);
  expect(container.textContent).toBe('');
});
