using Keralith.Core.Gear;
using Keralith.Core.Wear;

namespace Keralith.Data;

/// <summary>What may be bought again, and what one costs.</summary>
/// <param name="Size">Its size; empty where the family has none.</param>
/// <param name="Pieces">How many are in the register and not retired.</param>
/// <param name="Price">What one costs; null: nobody entered it.</param>
public sealed record PricedLine(GearFamily Family, string Size, int Pieces, Price? Price);

/// <summary>Prices of gear, by family and size: notes of the works, for what there is to order. They are no part of the ledger.</summary>
public sealed class PriceStore(Database database)
{
    /// <summary>Every family and size in the register, with its price where one was entered.</summary>
    public Task<List<PricedLine>> AllAsync(CancellationToken cancel) =>
        database
            .Command(
                $"""
                select coalesce(g.family, c.family) as family, coalesce(g.size, c.size) as size, coalesce(g.n, 0) as n, c.amount, c.currency
                from (
                  select p.family, coalesce(p.attributes->>'size', '') as size, count(*)::int as n
                  from piece p where p.state not in {Fragments.Retired} group by 1, 2) g
                full join price c on c.family = g.family and c.size = g.size
                order by 1, 2
                """
            )
            .ListAsync(
                r => new PricedLine(
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    r.Get<string>("size"),
                    r.Get<int>("n"),
                    r.ValueOrNull<decimal>("amount") is { } amount ? new(amount, r.Get<string>("currency")) : null
                ),
                cancel
            );

    /// <summary>Enters prices; what is empty has none from now on.</summary>
    public Task<Checked<Recorded>> SetAsync(
        IReadOnlyList<EnteredPrice> entered,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var read = PriceActs.Set(entered, session.By);
                if (!read.Ok)
                    return read.Refusal;
                await session
                    .WriteAsync(
                        """
                        delete from price p using unnest($1::text[], $2::text[]) as e (family, size)
                        where p.family = e.family and p.size = e.size
                        """,
                        read.Value.Select(e => e.Family).ToArray(),
                        read.Value.Select(e => e.Size).ToArray()
                    )
                    .ConfigureAwait(false);
                var priced = read.Value.Where(e => e.Price is not null).ToList();
                await session
                    .WriteAsync(
                        """
                        insert into price (family, size, amount, currency, set_at, set_by)
                        select family, size, amount, currency, $5, $6
                        from unnest($1::text[], $2::text[], $3::numeric[], $4::text[]) as e (family, size, amount, currency)
                        """,
                        priced.Select(e => e.Family).ToArray(),
                        priced.Select(e => e.Size).ToArray(),
                        priced.Select(e => e.Price!.Value.Amount).ToArray(),
                        priced.Select(e => e.Price!.Value.Currency).ToArray(),
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );
}
