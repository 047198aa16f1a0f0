using System.Text.Json;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;

namespace Keralith.Data;

/// <summary>How far the change-over has come in a store.</summary>
/// <param name="Carry">In service with a mark that counts.</param>
/// <param name="Lack">In service without one.</param>
public sealed record SeasonProgress(int StoreId, string Store, int Carry, int Lack);

/// <summary>The season scheme and how far the change-over has come.</summary>
public sealed class SeasonStore(Database database)
{
    /// <summary>Most pieces listed at once.</summary>
    public const int Most = 400;

    /// <summary>How many pieces in service at a site carry this season's mark, store by store.</summary>
    public Task<List<SeasonProgress>> ProgressAsync(DateOnly season, int site, CancellationToken cancel) =>
        database
            .Command(
                """
                select s.id, s.name, (count(*) filter (where p.season_for = $1))::int, (count(*) filter (where p.season_for is distinct from $1))::int
                from store s
                join piece p on p.store_id = s.id and p.state = 'in-service'
                where s.site_id = $2
                group by s.id, s.name, s.position
                order by s.position
                """
            )
            .Positional(season, site)
            .ListAsync(r => new SeasonProgress(r.GetInt32(0), r.GetString(1), r.GetInt32(2), r.GetInt32(3)), cancel);

    /// <summary>What is in service at a site without this season's mark, by store and peg.</summary>
    public Task<List<Piece>> LackingAsync(DateOnly season, int site, int? store, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select {PieceRows.Columns} from piece p join store s on s.id = p.store_id
                where p.state = 'in-service' and p.season_for is distinct
                from $1 and ($2::int is null or p.store_id = $2) and s.site_id = $3
                order by s.position, p.peg, p.mark limit {Most}
                """
            )
            .Positional(season, store, site)
            .ListAsync(PieceRows.From, cancel);

    /// <summary>
    /// Sets the scheme. Where marks change their meaning, what is painted counts no more: each piece gets its mark
    /// anew.
    /// </summary>
    /// <param name="site">The number of the site.</param>
    /// <param name="version">The version of the site that was read.</param>
    public Task<Checked<Recorded>> SetAsync(
        int site,
        int version,
        SeasonScheme scheme,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAtSiteAsync(
            database,
            site,
            stamp,
            async session =>
            {
                if (SiteActs.RefusalOfSeasons(reason, session.By) is { } refusal)
                    return refusal;
                if (session.Site.Version != version)
                    return Refusals.SettingsChanged;
                await session
                    .WriteAsync(
                        "update site set season_scheme = $1::jsonb, version = version + 1 where id = $2",
                        JsonSerializer.Serialize(scheme, JsonSerializerOptions.Web),
                        site
                    )
                    .ConfigureAwait(false);
                if (session.Site.Seasons is not { } before || !SeasonSchemeReader.KeepsMarks(before, scheme))
                    await session
                        .WriteAsync(
                            $"""
                            update piece set season_for = null, version = version + 1
                            where season_for is not null and state not in {Fragments.Retired}
                              and store_id in (select id from store where site_id = $1)
                            """,
                            site
                        )
                        .ConfigureAwait(false);
                var said = JsonSerializer.SerializeToElement(scheme, JsonSerializerOptions.Web);
                await session
                    .LedgerAsync(new SeasonSchemeSet(said, reason.Trim()), session.Site.Subject)
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );
}
