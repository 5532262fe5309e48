-- What a server does in place of the script that was put there, a sentence; null while the script is in force.
alter table server_script add column instead text;
-- When somebody last looked.
alter table server_script add column checked_at timestamptz not null default now();
