import type { Knex } from 'knex'

/** Accounts and sessions, in the shape the sign-in library expects, with ids made by the database. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table "user" (
      id text primary key default gen_random_uuid()::text,
      name text not null, email text not null unique, "emailVerified" boolean not null default false, image text,
      "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now(),
      post text not null default 'caller' check (post in ('coordinator', 'caller', 'manager'))
    );
    create table session (
      id text primary key default gen_random_uuid()::text,
      "userId" text not null references "user" on delete cascade,
      token text not null unique, "expiresAt" timestamptz not null, "ipAddress" text, "userAgent" text,
      "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
    );
    create index on session ("userId");
    create table account (
      id text primary key default gen_random_uuid()::text,
      "userId" text not null references "user" on delete cascade,
      "accountId" text not null, "providerId" text not null,
      "accessToken" text, "refreshToken" text, "idToken" text, "accessTokenExpiresAt" timestamptz, "refreshTokenExpiresAt" timestamptz,
      scope text, password text,
      "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
    );
    create index on account ("userId");
    create table verification (
      id text primary key default gen_random_uuid()::text,
      identifier text not null, value text not null, "expiresAt" timestamptz not null,
      "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
    );
    create table setting (name text primary key, value text not null);
    create table worker_beat (name text primary key, at timestamptz not null);
    grant select, insert, update, delete on worker_beat to arch_app;
    grant select, insert, update, delete on "user", session, account, verification to arch_app;
    grant select on setting to arch_app;
  `)
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table worker_beat, setting, verification, account, session, "user"')
}
