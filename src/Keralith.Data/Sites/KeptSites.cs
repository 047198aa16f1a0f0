using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>What every page asks, whatever else it shows.</summary>
/// <param name="SitesMadeOf">What the sites are made of, as <see cref="KeptSites"/> knows them again.</param>
/// <param name="Drafts">How many drafts a person has open.</param>
public sealed record EachTime(string SitesMadeOf, int Drafts);

/// <summary>
/// The sites as they were read last, kept until anything they are made of is another, whichever node changed it. What
/// they are made of is asked each time: nothing here is believed for a while.
/// </summary>
public sealed class KeptSites(Database database)
{
    // The rows of the sites themselves, and of what is only ever added to, who set how much of it and when last: those tables
    // refuse any change. The moment tells apart what numbers can't: a server that lost the last and was given another.
    private const string MadeOf = """
        concat_ws(
          E'\n',
          (select string_agg(s::text, E'\n' order by s.id) from site s),
          (
            select string_agg(concat_ws(' ', w.name, c.set, c.newest), E'\n' order by w.id)
            from (
              select o.set_by, count(*) as set, max(o.set_at) as newest
              from (
                select set_by, set_at from own_limit
                union all select set_by, set_at from proof_ask
                union all select set_by, set_at from own_question
              ) o
              group by o.set_by
            ) c
            join person w on w.id = c.set_by
          ),
          (select concat_ws(' ', count(*), max(at)) from question_withdrawal)
        )
        """;

    private Kept? _kept;

    /// <summary>Asks what every page asks, on a trip made with other questions.</summary>
    /// <param name="person">Whose drafts are counted; null: nobody's.</param>
    public static Asked<EachTime> Ask(Trip trip, Guid? person) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                select {MadeOf} as made_of,
                  (select count(*)::int from draft d where d.saved_by = $1 or d.started_by = $1) as drafts
                """
            ).Positional(person ?? Guid.Empty),
            r => new EachTime(r.Get<string>("made_of"), r.Get<int>("drafts")),
            rows => rows[0]
        );

    /// <summary>The sites that are made of this: those kept, or else read anew; null before the works is set up.</summary>
    public async ValueTask<SiteSet?> OfAsync(string madeOf, CancellationToken cancel)
    {
        if (Volatile.Read(ref _kept) is { } kept && kept.MadeOf == madeOf)
            return kept.Sites;

        // Asked before they are read: what changes in between makes the next question's answer another than this.
        var trip = new Trip();
        var (before, sites) = (Ask(trip, null), SiteStore.Sites(trip));
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        if (sites.Value is { } read)
            Volatile.Write(ref _kept, new(before.Value.SitesMadeOf, read));
        return sites.Value;
    }

    private sealed record Kept(string MadeOf, SiteSet Sites);
}
