using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>A store: a place where gear hangs on pegs.</summary>
/// <param name="Site">The number of the site it belongs to.</param>
/// <param name="SiteName">That site's name; null where there is but one.</param>
public sealed record Store(int Id, string Name, string About, int Site, string? SiteName)
{
    /// <summary>Its name, with its site's where there are several.</summary>
    public string Label => SiteName is null ? Name : $"{Name} ({SiteName})";
}

/// <summary>A store as administrators see it.</summary>
/// <param name="Pieces">How many pieces hang in it that are not destroyed.</param>
public sealed record KeptStore(int Id, StoreEntry Entry, bool IsClosed, int Pieces);

/// <summary>The sites of the works, their settings and stores.</summary>
public sealed class SiteStore(Database database)
{
    /// <summary>The sites with the limits in force at each; null before the works is set up.</summary>
    public static Asked<SiteSet?> Sites(Trip trip)
    {
        List<Site> sites = [];
        var questions = QuestionStore.InForce(trip);
        var proofs = ProofAskStore.InForce(trip);
        trip.Ask(
            new(
                """
                select id, name, rule_books, watch_share, due_notice, one_may_do_both, demo, latch_policy, thimble_policy, no_chain_hoisting,
                  back_up_sling, capacity_colours, season_scheme::text as season_scheme, editions::text as editions, version, time_zone, unit,
                  second_factor, critical_share
                from site
                """
            ),
            SiteFrom,
            rows => sites = rows
        );
        return trip.Ask(
            new(
                """
                select owner, site_id, maker, model, criterion, figure, reason, set_at, name as set_by from (
                  select distinct on (owner, site_id, maker, model, criterion) l.*, w.name
                  from own_limit l join person w on w.id = l.set_by
                  order by owner, site_id, maker, model, criterion, l.id desc) newest
                order by id desc
                """
            ),
            r => (Site: r.Get<int>("site_id"), Key: LimitKeyFrom(r), Row: LimitFrom(r)),
            set =>
            {
                // Core says which are one: the newest of each is in force, and those withdrawn are not.
                var limits = set.DistinctBy(l => l.Key)
                    .Where(l => l.Row is not null)
                    .Select(l => (l.Site, Row: l.Row!))
                    .OrderBy(l => l.Row.Limit.Owner)
                    .ThenBy(l => l.Row.Maker, StringComparer.Ordinal)
                    .ThenBy(l => l.Row.Model, StringComparer.Ordinal)
                    .ThenBy(l => l.Row.Limit.Criterion.Id, StringComparer.Ordinal)
                    .ToList();
                return sites.Count == 0
                    ? null
                    : new SiteSet(
                        sites.Select(s =>
                            s with
                            {
                                Limits =
                                [
                                    .. limits
                                        .Where(l => l.Row.Limit.Owner == LimitOwner.Maker || l.Site == s.Id)
                                        .Select(l => l.Row),
                                ],
                                ProofAsks =
                                [
                                    .. proofs
                                        .Value.Where(a => a.Row.Maker.Length > 0 || a.Site == s.Id)
                                        .Select(a => a.Row),
                                ],
                                Questions = [.. questions.Value.Where(q => q.Site == s.Id).Select(q => q.Row)],
                            }
                        )
                    );
            }
        );
    }

    /// <summary>The sites with the limits in force at each; null before the works is set up.</summary>
    public Task<SiteSet?> SitesAsync(CancellationToken cancel) => database.AskAsync(Sites, cancel);

    /// <summary>The first site; null before the works is set up.</summary>
    public async Task<Site?> FindAsync(CancellationToken cancel) =>
        (await SitesAsync(cancel).ConfigureAwait(false))?.Home;

    /// <summary>The first site.</summary>
    /// <exception cref="InvalidOperationException">It is not set up.</exception>
    public async Task<Site> GetAsync(CancellationToken cancel) =>
        await FindAsync(cancel).ConfigureAwait(false)
        ?? throw new InvalidOperationException("The site is not set up: run demo, or migrate and set it up.");

    public Task<List<Store>> StoresAsync(CancellationToken cancel) => database.AskAsync(Stores, cancel);

    /// <summary>The open stores in their order, on a trip made with other questions.</summary>
    public static Asked<List<Store>> Stores(Trip trip) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select s.id, s.name, s.about, s.site_id,
                  case when exists (select from site o where o.id <> h.id) then h.name end as site_name
                from store s
                join site h on h.id = s.site_id
                where s.closed_at is null
                order by s.position, s.name
                """
            ),
            r => new Store(
                r.Get<int>("id"),
                r.Get<string>("name"),
                r.Get<string>("about"),
                r.Get<int>("site_id"),
                r.TextOrNull("site_name")
            )
        );

    /// <summary>Sets the site up with its stores, in an empty database.</summary>
    public async Task SetUpAsync(Site site, IReadOnlyList<StoreEntry> stores, CancellationToken cancel)
    {
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        await InsertAsync(transaction.Command, site, stores, cancel).ConfigureAwait(false);
        await transaction.CommitAsync(cancel).ConfigureAwait(false);
    }

    /// <summary>Writes the site and its first stores.</summary>
    internal static async Task InsertAsync(
        Func<string, NpgsqlCommand> command,
        Site site,
        IReadOnlyList<StoreEntry> stores,
        CancellationToken cancel
    )
    {
        await command(
                """
                insert into site
                  (id, name, rule_books, watch_share, due_notice, one_may_do_both, demo, season_scheme, time_zone, catalogue_version, unit)
                values ($11, $1, $2, $3, $4, $5, $6, $7::jsonb, $8, $9, $10)
                """
            )
            .Positional(
                site.Name,
                site.Books.Select(b => b.Id).ToArray(),
                site.WatchShare,
                site.DueNotice,
                site.OneMayDoBoth,
                site.Demo,
                site.Seasons is null ? null : JsonSerializer.Serialize(site.Seasons, JsonSerializerOptions.Web),
                site.Zone.Id,
                Catalogue.Version,
                site.Unit,
                site.Id
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
        for (var i = 0; i < stores.Count; i++)
        {
            await command(
                    "insert into store (name, about, kind, often_offline, position, site_id) values ($1, $2, $3, $4, $5, $6)"
                )
                .Positional(
                    stores[i].Name,
                    stores[i].About,
                    Code.Of(stores[i].Kind),
                    stores[i].OftenOffline,
                    i,
                    site.Id
                )
                .RunAsync(cancel)
                .ConfigureAwait(false);
        }
    }

    private static Site SiteFrom(NpgsqlDataReader r) =>
        new(
            r.Get<string>("name"),
            r.Get<string[]>("rule_books")
                .Select(id =>
                    RuleBookShelf.Find(id)
                    ?? throw new InvalidOperationException(
                        $"The site works to a book {id} that this version does not know."
                    )
                )
                .ToList(),
            r.Get<decimal>("watch_share"),
            r.Get<int>("due_notice"),
            r.Get<bool>("one_may_do_both"),
            r.Get<bool>("demo")
        )
        {
            Id = r.Get<int>("id"),
            Policies = new(
                r.Get<bool>("latch_policy"),
                r.Get<bool>("thimble_policy"),
                r.Get<bool>("no_chain_hoisting"),
                r.Get<bool>("back_up_sling"),
                r.Get<bool>("capacity_colours")
            )
            {
                CriticalShare = r.Get<decimal>("critical_share"),
            },
            Seasons = r.TextOrNull("season_scheme") is { } seasons
                ? JsonSerializer.Deserialize<SeasonScheme>(seasons, JsonSerializerOptions.Web)
                : null,
            Editions = JsonSerializer.Deserialize<Dictionary<string, int>>(r.Get<string>("editions"))!,
            Version = r.Get<int>("version"),
            Unit = r.Get<string>("unit"),
            AsksSecondFactor = r.Get<bool>("second_factor"),
            Zone = Core.Sites.Site.ZoneOf(r.Get<string>("time_zone")).Value,
        };

    private static (LimitOwner, int, string, string, string) LimitKeyFrom(NpgsqlDataReader r) =>
        LimitRow.KeyOf(
            Code.Parse<LimitOwner>(r.Get<string>("owner")),
            r.Get<int>("site_id"),
            r.Get<string>("maker"),
            r.Get<string>("model"),
            r.Get<string>("criterion")
        );

    /// <summary>A limit as it was set; null where it was withdrawn.</summary>
    private static LimitRow? LimitFrom(NpgsqlDataReader r) =>
        r.TextOrNull("figure") is { } figure
            ? new(
                r.Get<string>("maker"),
                r.Get<string>("model"),
                OwnLimitReader
                    .Parse(Code.Parse<LimitOwner>(r.Get<string>("owner")), r.Get<string>("criterion"), figure)
                    .Value,
                figure,
                r.Get<string>("reason"),
                r.Get<DateTimeOffset>("set_at"),
                r.Get<string>("set_by")
            )
            : null;
}
