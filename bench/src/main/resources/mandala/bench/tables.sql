-- The model as plain tables. Things are numbers, resources stand at positions in pre-order; what
-- is not in force at the instant of the questions was left out by the loader.
create table principal (id int primary key, account int, active bool, factor bool);
create table belongs (principal int, account int, primary key (principal, account));
create table manager (person int primary key, boss int);
create table own_unit (principal int, unit int, in_full bool);
create table has (principal int, subject int);
create table nested (inner_group int, outer_group int);
create table type_of (permission int, type int, primary key (permission, type));
create table permission (id int primary key, is_view bool);
create table implies (permission int, implied int);
create table requires (permission int, gate int);
create table role (id int primary key, factor bool);
create table inherits (role int, junior int);
create table role_set (role int, set int);
create table includes (set int, inner_set int);
create table set_permission (set int, permission int, denies bool);
create table given (id int primary key, role int, set int, permission int, denies bool);
create table resource (
  pos int primary key, parent int, type int, account int, account_pos int, unit int, owner int,
  seal int, live bool);
-- One clause of one assignment or bridge on one stretch of positions; a null type is every type.
create table line (
  id int, assignment int, subject int, given int, from_pos int, to_pos int, floor int, type int,
  view_only bool, own_account bool, own_unit bool, own bool, team bool, crosses bool, jit bool,
  open bool, bridge_from int);
create table activated (principal int, assignment int, primary key (principal, assignment));
