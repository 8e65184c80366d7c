/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { beforeEach, expect, test } from '@jest/globals';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { DropFile } from './DropFile';

let taken: string[] = [];
let refused: string[] = [];
beforeEach(() => {
  taken = [];
  refused = [];
  render(
    <DropFile
      label="Picture"
      choose="Choose a picture"
      accept={{ 'image/png': ['.png'] }}
      take={({ name }) => taken.push(name)}
      refuse={({ name }) => refused.push(name)}
    >
      No picture. Drop one here
    </DropFile>,
  );
});
const picture = new File(['x'], 'hive.png', { type: 'image/png' });
const letter = new File(['x'], 'letter.txt', { type: 'text/plain' });
const area = () => screen.getByText('No picture. Drop one here').parentElement as HTMLElement;
const drop = (files: File[]) =>
  fireEvent.drop(area(), { dataTransfer: { files, items: files.map((file) => ({ kind: 'file', type: file.type, getAsFile: () => file })), types: ['Files'] } });

test('a file is chosen with a button that the keyboard reaches', async () => {
  const user = userEvent.setup();
  await user.tab();
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Choose a picture' }));
  await user.upload(screen.getByLabelText('Picture'), picture);
  await waitFor(() => expect(taken).toEqual(['hive.png']));
});

test('a file is dropped; of several only the first would be, so none is taken', async () => {
  drop([picture]);
  await waitFor(() => expect(taken).toEqual(['hive.png']));
  drop([picture, new File(['x'], 'other.png', { type: 'image/png' })]);
  await waitFor(() => expect(refused).toHaveLength(1));
  expect(taken).toEqual(['hive.png']);
});

test('a file of another type is not taken, and whoever asked is told', async () => {
  drop([letter]);
  await waitFor(() => expect(refused).toEqual(['letter.txt']));
  expect(taken).toEqual([]);
});
