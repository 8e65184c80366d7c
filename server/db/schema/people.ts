import { sql } from 'drizzle-orm';
import { bigint, boolean, index, integer, jsonb, pgTable, primaryKey, serial, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { key, moment } from './columns';
import { site } from './setup';

export const person = pgTable(
  'person',
  {
    id: key(),
    name: text().notNull(),
    email: text().notNull(),
    passwordHash: text('password_hash').notNull(),
    active: boolean().notNull().default(true),
    /** First steps were put away. */
    /** What the address of a person's calendar of due days ends in; null while they have none. */
    calendarSecret: text('calendar_secret').unique(),
    firstStepsAway: boolean('first_steps_away').notNull().default(false),
  },
  (t) => [uniqueIndex('person_email').on(t.email)],
);

export const role = pgTable('role', { id: key(), name: text().notNull().unique(), rights: text().array().notNull() });

/** A role given to a person, at one site or (null) at all. */
export const roleGrant = pgTable(
  'role_grant',
  {
    id: key(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    roleId: integer('role_id')
      .notNull()
      .references(() => role.id),
    siteId: integer('site_id').references(() => site.id),
  },
  (t) => [uniqueIndex('role_grant_once').on(t.personId, t.roleId, sql`coalesce(${t.siteId}, 0)`)],
);

/** Signed-in sessions, known by the hash of their token only. */
export const session = pgTable(
  'session',
  {
    tokenHash: text('token_hash').primaryKey(),
    id: serial().notNull().unique(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    createdAt: moment('created_at').notNull(),
    lastSeenAt: moment('last_seen_at')
      .notNull()
      .default(sql`now()`),
    /** What the browser said it is. */
    device: text().notNull().default(''),
    expiresAt: moment('expires_at').notNull(),
  },
  (t) => [index('session_expiry').on(t.expiresAt)],
);

/** One row per posting request: the same key again gets the same answer. */
export const idempotency = pgTable(
  'idempotency',
  {
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    route: text().notNull(),
    key: text().notNull(),
    requestHash: text('request_hash').notNull(),
    answer: jsonb(),
    at: moment()
      .notNull()
      .default(sql`now()`),
  },
  (t) => [primaryKey({ columns: [t.personId, t.route, t.key] })],
);

/** Browsers that somebody has signed in with before: the wrong tries of others do not keep them out. */
export const knownDevice = pgTable(
  'known_device',
  {
    tokenHash: text('token_hash').notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    lastUsedAt: moment('last_used_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.tokenHash, t.personId] })],
);

/** Counted attempts to sign in; its shape is the rate limiter's. */
export const signInAttempt = pgTable('sign_in_attempt', {
  key: text().primaryKey(),
  points: integer().notNull().default(0),
  expire: bigint({ mode: 'number' }),
});

/** Who wrote something, and when. */
export const written = () => ({
  createdAt: moment('created_at').notNull(),
  createdBy: integer('created_by')
    .notNull()
    .references(() => person.id),
});
