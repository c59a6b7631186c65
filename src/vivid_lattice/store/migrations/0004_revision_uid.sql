-- Every revision has an id of its own. Numbers repeat across restores and copies of the file; these do not, so that a page
-- that saves from a revision of the same number, but another content, is told of a conflict.

drop trigger revision_is_never_changed;

alter table revision add column uid text not null default '';

update revision set uid = lower(hex(randomblob(8)));

create unique index revision_by_uid on revision (uid);

create trigger revision_is_never_changed before update on revision
begin select raise(abort, 'a revision is never changed'); end;
