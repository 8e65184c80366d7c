import { expect, test } from '@jest/globals';
import { saidOf } from './log';
import { readSettings } from './settings';

const env = { DATABASE_URL: 'postgresql://a@127.0.0.1/b' };

test('settings are read, and what does not fit is named', () => {
  expect(readSettings(env, [])).toMatchObject({ host: '127.0.0.1', port: 4310, proxies: 0, ownerUrl: env.DATABASE_URL, smtpUrl: null, empty: false });
  expect(readSettings({ ...env, HOST: '0.0.0.0', TRUST_PROXY: '1', PORT: '8080' }, ['--empty'])).toMatchObject({ proxies: 1, port: 8080, empty: true });
  const fault = (more: object) => expect(() => readSettings({ ...env, ...more }, []));
  fault({ DATABASE_URL: '' }).toThrow('DATABASE_URL');
  fault({ PORT: 'many' }).toThrow('PORT is a number');
  fault({ TRUST_PROXY: 'yes' }).toThrow('TRUST_PROXY says how many');
  fault({ HOST: 'my computer' }).toThrow('HOST is an address');
  fault({ PUBLIC_URL: 'stock.larkmoor' }).toThrow('PUBLIC_URL is the address people open');
  expect([readSettings(env, []).publicUrl, readSettings({ ...env, PUBLIC_URL: 'https://stock.larkmoor.example/' }, []).publicUrl]).toEqual([
    'http://127.0.0.1:4310',
    'https://stock.larkmoor.example',
  ]);
  fault({ HOST: '0.0.0.0' }).toThrow('Passwords must not travel in the clear');
  expect(readSettings({ ...env, HOST: '127.0.0.2' }, []).host).toBe('127.0.0.2');
});

test('an error in the log holds no values that people typed', () => {
  const inner = Object.assign(new Error('duplicate key value violates unique constraint "person_email"\nKey (email)=(ada@finch.example) exists'), {
    code: '23505',
    constraint: 'person_email',
  });
  const error = new Error('Failed query: insert into person values ($1)\nparams: ada@finch.example,secret', { cause: inner });
  const said = JSON.stringify(saidOf(error));
  expect(said).not.toMatch(/ada@|secret/);
  expect(saidOf(error)).toMatchObject({ message: 'Failed query: insert into person values ($1)', code: '23505', constraint: 'person_email' });
  expect(saidOf(inner).message).toContain('Key (email)=(…)');
  expect(saidOf(new Error('invalid input syntax for type bigint: "my secret"')).message).toBe('invalid input syntax for type bigint');
});
