/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { describe, expect, test } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { CellChoice, CellField } from './CellField';
import { CellCheck, Check } from './Check';
import { Choice, Field, LongField } from './Field';
import { Notice } from './Notice';
import { StageTrack } from './StageTrack';
import { Tabs } from './Tabs';

/** What a screen reader says of a field beside its name. */
const describedBy = (field: HTMLElement): string =>
  (field.getAttribute('aria-describedby') ?? '')
    .split(' ')
    .map((id) => document.getElementById(id)?.textContent ?? '')
    .join(' ');

describe('a labelled field', () => {
  function Page({ error }: { error?: string }) {
    const [name, setName] = useState('');
    const [unit, setUnit] = useState('');
    const [note, setNote] = useState('');
    return (
      <>
        <Field label="Name" value={name} onChange={setName} error={error} placeholder="Smoker" autoFocus />
        <Choice
          label="Unit"
          value={unit}
          onChange={setUnit}
          none="Choose"
          options={[
            { value: '1', label: 'each' },
            { value: '2', label: 'pack' },
          ]}
        />
        <LongField label="Note" value={note} onChange={setNote} rows={3} />
        <output>{[name, unit, note].join('|')}</output>
      </>
    );
  }
  const said = () => screen.getByText('|', { exact: false }).textContent;

  test('is filled by keyboard alone, each where the last one led', async () => {
    const user = userEvent.setup();
    render(<Page />);
    expect(document.activeElement).toBe(screen.getByLabelText('Name'));
    await user.keyboard('Bee brush');
    await user.tab();
    expect(document.activeElement).toBe(screen.getByLabelText('Unit'));
    await user.selectOptions(screen.getByLabelText('Unit'), 'pack');
    await user.tab();
    await user.keyboard('soft{Enter}twice');
    expect(said()).toBe('Bee brush|2|soft\ntwice');
  });
  test('is found by its label, and a click on the label goes into it', async () => {
    const user = userEvent.setup();
    render(<Page />);
    await user.click(screen.getByText('Note'));
    expect(document.activeElement).toBe(screen.getByLabelText('Note'));
  });
  test('says what is wrong right under it, at once, and as part of the field', () => {
    const { rerender } = render(<Page />);
    expect(screen.getByLabelText('Name').getAttribute('aria-invalid')).toBe('false');
    expect(screen.queryByRole('alert')).toBeNull();
    rerender(<Page error="This must be filled." />);
    const field = screen.getByLabelText('Name');
    expect(screen.getByRole('alert').textContent).toBe('This must be filled.');
    expect([field.getAttribute('aria-invalid'), describedBy(field)]).toEqual(['true', 'This must be filled.']);
    expect(screen.getByLabelText('Unit').getAttribute('aria-invalid')).not.toBe('true');
  });
  test('keeps its name for screen readers where a heading says it to the eye', () => {
    render(<Field label="Price of line 3" hideLabel value="2.50" onChange={() => undefined} />);
    expect(screen.getByLabelText<HTMLInputElement>('Price of line 3').value).toBe('2.50');
    expect(screen.getByText('Price of line 3').className).toContain('hidden');
  });
});

describe('a field in a table', () => {
  test('has its name for screen readers only, takes numbers whole, and says what is wrong under it', async () => {
    const user = userEvent.setup();
    const typed: string[] = [];
    render(<CellField label="Quantity of VASE" number value="12" error="At least 24." onChange={(value) => typed.push(value)} />);
    const field = screen.getByLabelText<HTMLInputElement>('Quantity of VASE');
    expect([field.inputMode, field.getAttribute('aria-invalid'), screen.getByRole('alert').textContent]).toEqual(['decimal', 'true', 'At least 24.']);
    await user.click(field);
    expect([field.selectionStart, field.selectionEnd]).toEqual([0, 2]);
    await user.keyboard('7');
    expect(typed).toEqual(['7']);
  });
  test('a word in it is not taken whole', async () => {
    const user = userEvent.setup();
    render(<CellField label="Zone" value="cold" onChange={() => undefined} />);
    await user.tab();
    const field = screen.getByLabelText<HTMLInputElement>('Zone');
    expect(document.activeElement).toBe(field);
    expect(field.inputMode).toBe('');
  });
  test('a choice tells what is chosen, and can be switched off', async () => {
    const user = userEvent.setup();
    const chosen: string[] = [];
    const { rerender } = render(
      <CellChoice
        label="Bin of VASE"
        value={2}
        none="None"
        options={[
          { value: '2', label: 'A-01' },
          { value: '3', label: 'A-02' },
        ]}
        onChange={(value) => chosen.push(value)}
      />,
    );
    const field = screen.getByLabelText<HTMLSelectElement>('Bin of VASE');
    expect(field.selectedOptions[0]?.textContent).toBe('A-01');
    await user.selectOptions(field, 'A-02');
    await user.selectOptions(field, 'None');
    expect(chosen).toEqual(['3', '']);
    rerender(<CellChoice label="Bin of VASE" value={2} disabled onChange={() => undefined} />);
    expect(screen.getByLabelText<HTMLSelectElement>('Bin of VASE').disabled).toBe(true);
  });
});

describe('yes or no', () => {
  test('is said by its words, by a click on them, or by Space', async () => {
    const user = userEvent.setup();
    function Page() {
      const [on, setOn] = useState(false);
      return <Check label="Customers may return it" checked={on} onChange={setOn} />;
    }
    render(<Page />);
    const check = screen.getByRole<HTMLInputElement>('checkbox', { name: 'Customers may return it' });
    await user.click(screen.getByText('Customers may return it'));
    expect(check.checked).toBe(true);
    await user.keyboard(' ');
    expect(check.checked).toBe(false);
  });
  test('in a table it is named by what it chooses, and a click on it opens no row', async () => {
    const user = userEvent.setup();
    const rows: string[] = [];
    render(
      <div onClick={() => rows.push('row')}>
        <CellCheck label="Choose VASE" checked={false} some onChange={() => undefined} />
      </div>,
    );
    const check = screen.getByRole<HTMLInputElement>('checkbox', { name: 'Choose VASE' });
    expect(check.getAttribute('data-indeterminate')).toBe('true');
    await user.click(check);
    expect(rows).toEqual([]);
  });
});

test('a notice is told at once when it asks or refuses, and when there is time when something was done', () => {
  render(
    <>
      <Notice>Take them all?</Notice>
      <Notice kind="refused">There is no such bin.</Notice>
      <Notice kind="done">Printed 3 labels.</Notice>
    </>,
  );
  expect(screen.getAllByRole('alert').map(({ textContent }) => textContent)).toEqual(['Take them all?', 'There is no such bin.']);
  expect(screen.getByRole('status').textContent).toBe('Printed 3 labels.');
});

test('tabs are buttons of which one is pressed; pressing it again changes nothing', async () => {
  const user = userEvent.setup();
  const chosen: string[] = [];
  render(
    <Tabs
      label="Which stock"
      options={[
        ['all', 'All'],
        ['low', 'Low'],
      ]}
      value="all"
      onChange={(key) => chosen.push(key)}
    />,
  );
  expect(screen.getByRole('group', { name: 'Which stock' })).toBeTruthy();
  expect(screen.getByRole('button', { pressed: true }).textContent).toBe('All');
  await user.click(screen.getByRole('button', { name: 'All' }));
  await user.click(screen.getByRole('button', { name: 'Low' }));
  expect(chosen).toEqual(['low']);
});

test('stages are a list; the one under way is the current step, and how far it is stands in words', () => {
  const stage = (name: string, done: string, of: string) => ({ name, done, of });
  render(<StageTrack stages={[stage('Quote', '1', '1'), stage('Picked', '12', '34'), stage('Dispatched', '0', '34')]} />);
  const steps = screen.getAllByRole('listitem');
  expect(screen.getByRole('list', { name: 'Stages' })).toBeTruthy();
  expect(steps.map(({ textContent }) => textContent)).toEqual(['Quote', 'Picked 12 of 34', 'Dispatched 0 of 34']);
  expect(steps.map((step) => step.getAttribute('aria-current'))).toEqual([null, 'step', null]);
});
