-- Dark ink on light paper, or the reverse.
alter table habits add column scheme varchar(10) not null default 'SYSTEM';
