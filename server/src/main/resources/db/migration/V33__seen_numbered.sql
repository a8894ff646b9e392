-- Each note of somebody seen gets the next number, so that every instance finds what is new to it
-- whatever the clocks of others say.
create sequence seen_number;
alter table seen add column number bigint not null default nextval('seen_number');
drop index seen_at;
create index seen_by_number on seen (number);
