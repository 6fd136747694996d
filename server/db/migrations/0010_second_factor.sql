-- Up Migration

-- The secret of an authenticator app (RFC 6238), where a person chose one, and the step of the last code that was taken: none is taken twice.
alter table accounts add column factor text, add column factor_step bigint not null default 0;

-- Down Migration
alter table accounts drop column factor, drop column factor_step;
