using Keralith.Core.Ledger;
using Keralith.Core.Sites;

namespace Keralith.Data;

/// <summary>The stores of the works: added, renamed, put in order, closed and opened again.</summary>
public sealed class StoreKeeping(Database database)
{
    /// <summary>Every store, the open ones first, in their order.</summary>
    public Task<List<KeptStore>> AllAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select s.id, s.name, s.about, s.kind, s.often_offline, s.site_id, s.closed_at is not null as closed,
                  (select count(*)::int from piece p where p.store_id = s.id and p.state <> 'destroyed') as pieces
                from store s
                order by closed, s.position, s.name
                """
            )
            .ListAsync(
                r => new KeptStore(
                    r.Get<int>("id"),
                    new(
                        r.Get<string>("name"),
                        r.Get<string>("about"),
                        Code.Parse<StoreKind>(r.Get<string>("kind")),
                        r.Get<bool>("often_offline")
                    )
                    {
                        Site = r.Get<int>("site_id"),
                    },
                    r.Get<bool>("closed"),
                    r.Get<int>("pieces")
                ),
                cancel
            );

    /// <summary>Adds a store, or changes one.</summary>
    /// <param name="id">The store; null: a new one, last in the order.</param>
    public Task<Checked<Recorded>> KeepAsync(int? id, StoreEntry store, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                var taken = await session
                    .ReadAsync(
                        "select 1 from store where lower(name) = lower($1) and id is distinct from $2::int",
                        r => r.GetInt32(0),
                        store.Name,
                        id
                    )
                    .ConfigureAwait(false);
                var carries = await session
                    .ReadAsync(
                        """
                        select count(*)::int from piece p join store s on s.id = p.store_id
                        where s.id = $1::int and s.site_id <> $2 and p.state <> 'destroyed'
                        """,
                        r => r.GetInt32(0),
                        id,
                        store.Site
                    )
                    .ConfigureAwait(false);
                var isKnown = session.Sites.Find(store.Site) is not null;
                if (StoreActs.RefusalToKeep(store, taken.Count > 0, session.By, isKnown, carries[0]) is { } refusal)
                    return refusal;
                var written = await session
                    .ReadAsync(
                        id is null
                            ? """
                            insert into store (name, about, kind, often_offline, site_id, position)
                            values ($1, $2, $3, $4, $5, (select coalesce(max(position), 0) + 1 from store))
                            returning id
                            """
                            : "update store set name = $1, about = $2, kind = $3, often_offline = $4, site_id = $5 where id = $6 returning id",
                        r => r.GetInt32(0),
                        id is null
                            ? [store.Name, store.About, Code.Of(store.Kind), store.OftenOffline, store.Site]
                            : [store.Name, store.About, Code.Of(store.Kind), store.OftenOffline, store.Site, id]
                    )
                    .ConfigureAwait(false);
                if (written.Count == 0)
                    return Refusals.NoSuchStore;
                await session
                    .LedgerAsync(
                        new StoreKept(written[0], store.Name, store.About, Code.Of(store.Kind), store.OftenOffline)
                        {
                            Site = store.Site,
                        },
                        "site"
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Adds a site: it begins with its books, without a store, a limit or a policy.</summary>
    public Task<Checked<Recorded>> AddSiteAsync(SiteEntry entry, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (
                    StoreActs.RefusalToKeepSite(entry.Name, IsTaken(session.Sites, entry.Name, null), session.By) is
                    { } refusal
                )
                    return refusal;
                var home = session.Sites.Home;
                var added = new Site(
                    entry.Name,
                    entry.Books,
                    home.WatchShare,
                    home.DueNotice,
                    home.OneMayDoBoth,
                    home.Demo
                )
                {
                    Id = session.Sites.All[^1].Id + 1,
                    Zone = entry.Zone,
                    Unit = home.Unit,
                };
                await SiteStore.InsertAsync(session.Command, added, [], cancel).ConfigureAwait(false);
                await session
                    .WriteAsync("update site set second_factor = $2 where id = $1", added.Id, home.AsksSecondFactor)
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(
                        new SiteAdded(added.Id, added.Name, [.. added.Books.Select(b => b.Id)], added.Zone.Id),
                        added.Subject
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Gives a site another name.</summary>
    public Task<Checked<Recorded>> RenameSiteAsync(int id, string name, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (session.Sites.Find(id) is not { } site)
                    return Refusals.NoSuchSite;
                if (StoreActs.RefusalToKeepSite(name, IsTaken(session.Sites, name, id), session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync("update site set name = $2, version = version + 1 where id = $1", id, name)
                    .ConfigureAwait(false);
                await session.LedgerAsync(new SiteRenamed(site.Name, name), site.Subject).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static bool IsTaken(SiteSet sites, string name, int? except) =>
        sites.All.Any(s => s.Id != except && string.Equals(s.Name, name, StringComparison.OrdinalIgnoreCase));

    /// <summary>Closes an empty store, or opens it again. No other command is under way meanwhile.</summary>
    public Task<Checked<Recorded>> CloseAsync(int id, bool close, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                var found = await session
                    .ReadAsync(
                        """
                        select s.name, (select count(*)::int from piece p where p.store_id = s.id and p.state <> 'destroyed') as pieces,
                          (select count(*)::int from store o where o.id <> s.id and o.closed_at is null) as others
                        from store s where s.id = $1 and (s.closed_at is null) = $2
                        """,
                        r => (Name: r.GetString(0), Pieces: r.GetInt32(1), Others: r.GetInt32(2)),
                        id,
                        close
                    )
                    .ConfigureAwait(false);
                if (found.Count == 0)
                    return Refusals.NoSuchStore;
                var refusal = close
                    ? StoreActs.RefusalToClose(found[0].Pieces, found[0].Others, session.By)
                    : StoreActs.NotByAdministrator(session.By);
                if (refusal is not null)
                    return refusal;
                await session
                    .WriteAsync(
                        "update store set closed_at = case when $2 then $3 else null end where id = $1",
                        id,
                        close,
                        session.Stamp.At
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(new StoreClosed(id, found[0].Name, close), "site").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Hangs a store one place earlier or later in the order.</summary>
    /// <param name="by">-1: earlier; 1: later.</param>
    public Task<Checked<Recorded>> ShiftAsync(int id, int by, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (StoreActs.NotByAdministrator(session.By) is { } refusal)
                    return refusal;
                var order = await session
                    .ReadAsync("select id from store where closed_at is null order by position, name", r =>
                        r.GetInt32(0)
                    )
                    .ConfigureAwait(false);
                var (from, to) = (order.IndexOf(id), order.IndexOf(id) + Math.Sign(by));
                if (from < 0)
                    return Refusals.NoSuchStore;
                if (to < 0 || to >= order.Count)
                    return null;
                (order[from], order[to]) = (order[to], order[from]);
                await session
                    .WriteAsync(
                        "update store s set position = o.place from unnest($1::int[]) with ordinality as o (id, place) where s.id = o.id",
                        order.ToArray()
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(new StoresOrdered(order), "site").ConfigureAwait(false);
                return null;
            },
            cancel
        );
}
