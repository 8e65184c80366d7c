import { useState } from 'react';
import { Link } from 'react-router';
import { accountTypes } from '@larder/contract/books';
import { purposeWords, type BookPurpose } from '@larder/core/books/purpose';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { money } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useAccountsQuery } from '../../shared/accounts';
import { useCreateAccountMutation } from './api';
import { BookTabs } from '../../shared/BookTabs';

/** The chart of accounts with what stands on each. */
export function AccountsPage() {
  useTitle('Accounts');
  const { data, error } = useAccountsQuery({});
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [type, setType] = useState<(typeof accountTypes)[number]>('expense');
  const [create, creating] = useCreateAccountMutation();
  const { refused, busy, at } = refusalOf(creating);
  const add = async () => {
    if ((await create({ body: { code, name, type } })).error) return;
    setCode('');
    setName('');
  };
  if (!data) return <Waiting error={error} />;
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Books</h1>
          <BookTabs />
        </div>
        <div className="card">
          <table aria-label="Accounts">
            <thead>
              <tr>
                <th>Account</th>
                <th>Name</th>
                <th>Kind</th>
                <th className="wide-only">Used for</th>
                <th className="number">Debit</th>
                <th className="number">Credit</th>
              </tr>
            </thead>
            <tbody>
              {data.rows.map((row) => (
                <tr key={row.id}>
                  <td className="code">{row.code}</td>
                  <td>
                    <Link to={`/books/accounts/${row.id}`}>{row.name}</Link>
                  </td>
                  <td className="quiet">{row.type}</td>
                  <td className="quiet wide-only">{row.purpose === null ? '' : purposeWords[row.purpose as BookPurpose]}</td>
                  <td className="number">{Number(row.balance) > 0 ? money(row.balance) : ''}</td>
                  <td className="number">{Number(row.balance) < 0 ? money(row.balance.slice(1)) : ''}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </div>
      <section className="card" aria-label="New account">
        <h2>New account</h2>
        <div className="pad stack">
          <Refused error={refused} />
          <Field label="Number" value={code} onChange={setCode} error={at('code')} />
          <Field label="Name" value={name} onChange={setName} error={at('name')} />
          <Choice
            label="Kind"
            value={type}
            onChange={(value) => setType(value as typeof type)}
            options={accountTypes.map((value) => ({ value, label: value }))}
          />
          <button type="button" className="button" disabled={busy || code === '' || name === ''} onClick={() => void add()}>
            Add the account
          </button>
        </div>
      </section>
      <BottomBar hint="Debits and credits are the same in all, always" />
    </div>
  );
}
