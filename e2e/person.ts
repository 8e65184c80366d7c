import { expect, type Page } from '@playwright/test';

/** Signs in as a person of the demo. */
export async function signIn(page: Page, email = 'ines@larkmoor.example'): Promise<void> {
  await page.goto('/');
  await page.getByLabel('Mail address').fill(email);
  await page.getByLabel('Password').fill('larder-demo');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
}

/** A scanner: a burst of keys ending in Enter, wherever the focus is. Each key is stamped when it was struck, however long the page takes for those before. */
export async function scan(page: Page, code: string): Promise<void> {
  await page.evaluate(
    (keys) => {
      const began = performance.now();
      for (const [at, key] of keys.entries()) {
        const target = document.activeElement ?? document.body;
        const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
        Object.defineProperty(event, 'timeStamp', { value: began + at * 5 });
        const goesOn = target.dispatchEvent(event);
        if (goesOn && key.length === 1 && target.matches('input, textarea')) document.execCommand('insertText', false, key);
      }
    },
    [...code, 'Enter'],
  );
}

/** Types an action or words into the scan bar and opens the first that fits. */
export async function open(page: Page, words: string): Promise<void> {
  const bar = page.getByRole('combobox', { name: 'Scan bar' });
  await bar.fill(words);
  await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toBeVisible();
  await bar.press('Enter');
}

/** Writes a line in the one field: the words are typed, and the item that fits is taken with Enter; where the list is asked first, once more. */
export async function enterLine(page: Page, text: string, item: string): Promise<void> {
  const field = page.getByRole('combobox', { name: 'New line' });
  await field.click();
  await field.pressSequentially(text, { delay: 45 });
  await expect(page.getByRole('option', { name: item })).toBeVisible();
  await expect(async () => {
    if ((await field.inputValue()) !== '') await field.press('Enter');
    await expect(field).toHaveValue('', { timeout: 500 });
  }).toPass();
}

/** Chooses a supplier or customer by a few letters. */
export async function choose(page: Page, label: string, letters: string, name: string): Promise<void> {
  const field = page.getByRole('combobox', { name: label });
  await field.click();
  await field.pressSequentially(letters, { delay: 45 });
  await expect(page.getByRole('option', { name })).toBeVisible();
  await field.press('Enter');
  await expect(field).toHaveValue(name);
}

/** Pastes a text into the field that has the focus, as a spreadsheet gives it. */
export async function paste(page: Page, text: string): Promise<void> {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.evaluate((copied) => navigator.clipboard.writeText(copied), text);
  await page.keyboard.press('Control+v');
}
