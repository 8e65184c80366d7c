/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { begin, door, signIn } from '@larder/contract/people';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, standInServer } from '../../testing/server';
import { SignIn } from './SignIn';

function open({ founded = true, demo = false }: { founded?: boolean; demo?: boolean } = {}, answer: unknown = { id: 1 }) {
  const server = standInServer();
  server.on(door, () => ({ founded, demo }));
  server.on(signIn, () => answer);
  server.on(begin, () => answer);
  const { Around } = around();
  render(<SignIn />, { wrapper: Around });
  return { user: userEvent.setup(), server };
}
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);

test('the mail address has the focus, and Enter in the password signs in', async () => {
  const { user, server } = open();
  expect(document.activeElement).toBe(field('Mail address'));
  await user.type(field('Mail address'), 'ines@test.example');
  await user.type(field('Password'), 'a long secret{Enter}');
  await waitFor(() => expect(server.sent(signIn)).toEqual({ email: 'ines@test.example', password: 'a long secret' }));
});

test('Enter after the mail address goes on to the password; once more, and it says that one is needed', async () => {
  const { user, server } = open();
  await user.type(field('Mail address'), 'ines@test.example{Enter}');
  expect(document.activeElement).toBe(field('Password'));
  expect(screen.queryByText('Give your password.')).toBeNull();
  await user.keyboard('{Enter}');
  expect(await screen.findByText('Give your password.')).toBeTruthy();
  await user.keyboard('a long secret{Enter}');
  await waitFor(() => expect(server.sent(signIn)).toEqual({ email: 'ines@test.example', password: 'a long secret' }));
});

test('what is missing is said at its field, and nothing is sent', async () => {
  const { user, server } = open();
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect(await screen.findByText('Give your mail address.')).toBeTruthy();
  expect(screen.getByText('Give your password.')).toBeTruthy();
  expect(document.activeElement).toBe(field('Mail address'));
  expect(server.sent(signIn)).toBeUndefined();
});

test('a wrong password is refused without saying which of both is wrong, and both stay typed', async () => {
  const { user } = open({}, refused(401, 'wrong', 'This mail address and password do not fit.'));
  await user.type(field('Mail address'), 'ines@test.example');
  await user.type(field('Password'), 'wrong{Enter}');
  expect(await screen.findByText('This mail address and password do not fit.')).toBeTruthy();
  expect([field('Mail address').value, field('Password').value]).toEqual(['ines@test.example', 'wrong']);
});

test('the demo says how one gets in', async () => {
  open({ demo: true });
  expect(await screen.findByText(/This is the demo/)).toBeTruthy();
});

test('before there is a business its beginning is shown, which needs the link that the start printed', async () => {
  open({ founded: false });
  expect(await screen.findByLabelText('Name of the business')).toBeTruthy();
  expect(screen.getByText(/Open the link that npm start printed/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Begin' }).disabled).toBe(true);
});

test('with the link what is typed is checked, and a weak password is said at its field', async () => {
  window.location.hash = '#proof';
  try {
    const { user, server } = open({ founded: false }, refused(422, 'not-valid', 'This password is easy to guess.', 'password'));
    await screen.findByLabelText('Name of the business');
    await user.click(screen.getByRole('button', { name: 'Begin' }));
    await waitFor(() => expect(field('Name of the business').getAttribute('aria-invalid')).toBe('true'));
    expect(server.sent(begin)).toBeUndefined();
    await user.type(field('Name of the business'), 'Fen Edge Honey');
    await user.type(field('Your name'), 'Ines Vale');
    await user.type(field('Mail address'), 'ines@test.example');
    await user.type(field('Password, at least 12 characters'), 'honeyhoneyhoney');
    await user.click(screen.getByRole('button', { name: 'Begin' }));
    expect(await screen.findByText('This password is easy to guess.')).toBeTruthy();
    expect(server.sent(begin)).toEqual({
      token: 'proof',
      business: 'Fen Edge Honey',
      name: 'Ines Vale',
      email: 'ines@test.example',
      password: 'honeyhoneyhoney',
    });
    expect(document.activeElement).toBe(field('Password, at least 12 characters'));
  } finally {
    window.location.hash = '';
  }
});
