-- Which demo a job was opened from, so that demo jobs are listed apart from one's own.

alter table job add column demo text;

update job set demo = (
    select substr(words, 6, length(words) - 12) from revision
     where job_id = job.id and number = 1 and words like 'demo _% opened'
);
