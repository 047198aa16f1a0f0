using Keralith.Core.Criteria;
using Npgsql;

namespace Keralith.Data;

/// <summary>The site and how it works.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Books">The rule books it works to.</param>
/// <param name="WatchShare">The share of an allowance from which a piece is watched.</param>
/// <param name="DueNotice">Days of notice before something is due.</param>
/// <param name="OneMayDoBoth">Whether one person may sign the clean inspection and close the hold.</param>
/// <param name="Demo">Whether the records are demo data.</param>
public sealed record Site(string Name, IReadOnlyList<RuleBook> Books, decimal WatchShare, int DueNotice, bool OneMayDoBoth, bool Demo);

/// <summary>A store: a place where gear hangs on pegs.</summary>
public sealed record Store(int Id, string Name, string About);

/// <summary>The site's settings and stores.</summary>
public sealed class SiteStore(Database database)
{
    /// <summary>The site; null before it is set up.</summary>
    public Task<Site?> FindAsync(CancellationToken cancel) =>
        database.Command("select name, rule_books, watch_share, due_notice, one_may_do_both, demo from site").FirstAsync(SiteFrom, cancel);

    /// <summary>The site.</summary>
    /// <exception cref="InvalidOperationException">It is not set up.</exception>
    public async Task<Site> GetAsync(CancellationToken cancel) =>
        await FindAsync(cancel).ConfigureAwait(false) ?? throw new InvalidOperationException("The site is not set up: run demo, or migrate and set it up.");

    public Task<List<Store>> StoresAsync(CancellationToken cancel) =>
        database.Command("select id, name, about from store order by position, name")
            .ListAsync(r => new Store(r.Get<int>("id"), r.Get<string>("name"), r.Get<string>("about")), cancel);

    /// <summary>Sets the site up with its stores, in an empty database.</summary>
    public async Task SetUpAsync(Site site, IReadOnlyList<(string Name, string About)> stores, CancellationToken cancel)
    {
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        await transaction.Command("insert into site (name, rule_books, watch_share, due_notice, one_may_do_both, demo) values ($1, $2, $3, $4, $5, $6)")
            .Positional(site.Name, site.Books.Select(b => b.Id).ToArray(), site.WatchShare, site.DueNotice, site.OneMayDoBoth, site.Demo)
            .RunAsync(cancel).ConfigureAwait(false);
        for (var i = 0; i < stores.Count; i++)
        {
            await transaction.Command("insert into store (name, about, position) values ($1, $2, $3)").Positional(stores[i].Name, stores[i].About, i).RunAsync(cancel).ConfigureAwait(false);
        }

        await transaction.CommitAsync(cancel).ConfigureAwait(false);
    }

    private static Site SiteFrom(NpgsqlDataReader r) => new(
        r.Get<string>("name"),
        r.Get<string[]>("rule_books").Select(id => RuleBookShelf.Find(id) ?? throw new InvalidOperationException($"The site works to a book {id} that this version does not know.")).ToList(),
        r.Get<decimal>("watch_share"),
        r.Get<int>("due_notice"),
        r.Get<bool>("one_may_do_both"),
        r.Get<bool>("demo"));
}
