namespace Keralith.Data;

/// <summary>Something a person is to be told.</summary>
public sealed record NoticeRow(long Id, string Words, string Link, DateTimeOffset At);

/// <summary>Something a person is to be told by mail.</summary>
public sealed record MailedNotice(long Id, string Words, string Link, string Username, string Name, string Address);

/// <summary>What people are told, until they have seen it.</summary>
public sealed class NoticeStore(Database database)
{
    /// <summary>What a person has not seen yet, newest first.</summary>
    public Task<List<NoticeRow>> OpenAsync(Guid person, CancellationToken cancel) =>
        database
            .Command(
                "select id, words, link, at from notice where person_id = $1 and seen_at is null order by id desc limit 50"
            )
            .Positional(person)
            .ListAsync(
                r => new NoticeRow(r.GetInt64(0), r.GetString(1), r.GetString(2), r.Get<DateTimeOffset>("at")),
                cancel
            );

    /// <summary>
    /// Takes what nobody was mailed yet, to be mailed: once, of those who want mails, have an address and have not seen it.
    /// </summary>
    public Task<List<MailedNotice>> ToMailAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                with taken as (
                  update notice set mailed_at = clock_timestamp()
                  where id in (select id from notice where mailed_at is null order by id limit 500)
                  returning id, person_id, words, link, seen_at)
                select t.id, t.words, t.link, p.username, p.name, p.mail
                from taken t join person p on p.id = t.person_id
                where t.seen_at is null and p.mails and 'notices' = any(p.mail_kinds) and p.mail <> '' and p.disabled_at is null
                order by t.id
                """
            )
            .ListAsync(
                r => new MailedNotice(
                    r.GetInt64(0),
                    r.GetString(1),
                    r.GetString(2),
                    r.GetString(3),
                    r.GetString(4),
                    r.GetString(5)
                ),
                cancel
            );

    /// <summary>A person has seen all up to one.</summary>
    public Task SeenAsync(Guid person, long upTo, DateTimeOffset at, CancellationToken cancel) =>
        database
            .Command("update notice set seen_at = $3 where person_id = $1 and id <= $2 and seen_at is null")
            .Positional(person, upTo, at)
            .RunAsync(cancel);
}
