namespace Keralith.Data;

/// <summary>Something a person is to be told.</summary>
public sealed record NoticeRow(long Id, string Words, string Link, DateTimeOffset At);

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

    /// <summary>A person has seen all up to one.</summary>
    public Task SeenAsync(Guid person, long upTo, DateTimeOffset at, CancellationToken cancel) =>
        database
            .Command("update notice set seen_at = $3 where person_id = $1 and id <= $2 and seen_at is null")
            .Positional(person, upTo, at)
            .RunAsync(cancel);
}
