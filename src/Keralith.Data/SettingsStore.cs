using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Npgsql;

namespace Keralith.Data;

/// <summary>How a site works, as it is to be from now on.</summary>
/// <param name="Version">The version of the site that was changed.</param>
/// <param name="Books">At least one.</param>
/// <param name="Editions">The edition year of each book the site works to, where it says one.</param>
/// <param name="WatchShare">Over 0, at most 0.75: watching later than the rules' own share would be milder.</param>
/// <param name="Policies">Policies the site adds.</param>
/// <param name="Reason">Why.</param>
public sealed record SiteChange(
    int Version,
    IReadOnlyList<RuleBook> Books,
    IReadOnlyDictionary<string, int> Editions,
    decimal WatchShare,
    SitePolicies Policies,
    string Reason
)
{
    /// <summary>Whether gear without the season's mark may not be used; null: as it was.</summary>
    public bool? EnforceSeason { get; init; }
}

/// <summary>Changes to the rules a site works to. Each is signed into the ledger with its reason.</summary>
public sealed class SettingsStore(Database database, SiteStore sites)
{
    private readonly Recorder _recorder = new(database);

    /// <summary>Changes books, editions, watch share and policies; due dates follow at once.</summary>
    public Task<Checked<Recorded>> ChangeSiteAsync(SiteChange change, Stamp stamp, CancellationToken cancel) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                if (!stamp.Actor.Role.May(Right.SetBooks))
                    return "Only a supervisor or administrator changes the books a site works to.";
                if (change.Books.Count == 0)
                    return "A site works to one book at least.";
                if (change.WatchShare is <= 0 or > Judge.DefaultWatchShare)
                    return $"The watch share lies above 0 and at most at {Judge.DefaultWatchShare:0.##}: watching later would be milder than the rules.";
                if (change.Editions.Values.Any(y => y is < 1950 or > 2100))
                    return "An edition is a year, such as 2021.";
                if (string.IsNullOrWhiteSpace(change.Reason))
                    return "Say why: it stands in the ledger.";
                var changed = await transaction
                    .Command(
                        """
                        update site set rule_books = $2, editions = $3::jsonb, watch_share = $4, latch_policy = $5, thimble_policy = $6, no_chain_hoisting = $7, back_up_sling = $8, capacity_colours = $9,
                          season_scheme = case when $10::boolean is null then season_scheme else jsonb_set(season_scheme, '{enforced}', to_jsonb($10::boolean)) end, version = version + 1 where version = $1
                        """
                    )
                    .Positional(
                        change.Version,
                        change.Books.Select(b => b.Id).ToArray(),
                        JsonSerializer.Serialize(change.Editions),
                        change.WatchShare,
                        change.Policies.Latches,
                        change.Policies.Thimbles,
                        change.Policies.NoChainHoisting,
                        change.Policies.BackUpSling,
                        change.Policies.CapacityColours,
                        change.EnforceSeason
                    )
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                if (changed == 0)
                    return "Somebody else has changed the settings since you opened them. Nothing of yours was saved: look at what they say now, then send it again.";
                await DeriveDueAsync(transaction, change.Books, cancel).ConfigureAwait(false);
                await LedgerStore
                    .AppendAsync(
                        transaction,
                        stamp,
                        "rules.site",
                        "site",
                        new
                        {
                            books = change.Books.Select(b => b.Id),
                            change.Editions,
                            change.WatchShare,
                            change.Policies,
                            change.EnforceSeason,
                            change.Reason,
                        },
                        cancel
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Sets a limit of the site or a maker; an empty figure withdraws it.</summary>
    /// <param name="maker">Whose; empty for the site's own.</param>
    /// <param name="model">For which model; empty: everything the maker makes.</param>
    public Task<Checked<Recorded>> SetLimitAsync(
        LimitOwner owner,
        string maker,
        string model,
        string criterion,
        string figure,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                (maker, model, figure) = (maker.Trim(), model.Trim(), figure.Trim());
                if (!stamp.Actor.Role.May(Right.SetLimits))
                    return "Only a qualified person sets limits beside the books.";
                if (string.IsNullOrWhiteSpace(reason))
                    return "Say why, or where the figure stands: it goes into the ledger.";
                if ((owner == LimitOwner.Maker) != (maker.Length > 0))
                    return owner == LimitOwner.Maker ? "Name the maker." : "A site's own limit names no maker.";
                if (maker.Length > 120 || model.Length > 120 || figure.Length > 40 || reason.Length > 400)
                    return "That is too long to be one.";
                if (Catalogue.Find(criterion) is null)
                    return "Choose a measure or a count.";
                if (figure.Length > 0)
                {
                    var site = await sites.GetAsync(cancel).ConfigureAwait(false);
                    var limit = OwnLimitReader.Read(owner, criterion, figure, site.Books);
                    if (!limit.Ok)
                        return limit.Fault;
                }

                await transaction
                    .Command(
                        "insert into own_limit (owner, maker, model, criterion, figure, reason, set_at, set_by) values ($1, $2, $3, $4, $5, $6, $7, $8)"
                    )
                    .Positional(
                        Code.Of(owner),
                        maker,
                        model,
                        criterion,
                        figure.Length == 0 ? null : figure,
                        reason.Trim(),
                        stamp.At,
                        stamp.Actor.Id
                    )
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await LedgerStore
                    .AppendAsync(
                        transaction,
                        stamp,
                        figure.Length == 0 ? "rules.limit-withdrawn" : "rules.limit-set",
                        maker.Length > 0 ? maker : "site",
                        new
                        {
                            owner = Code.Of(owner),
                            maker,
                            model,
                            criterion,
                            figure,
                            reason = reason.Trim(),
                        },
                        cancel
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Due dates are Core's answer under the books worked to: other books, other dates, in the same transaction.</summary>
    private static async Task DeriveDueAsync(
        NpgsqlTransaction transaction,
        IReadOnlyList<RuleBook> books,
        CancellationToken cancel
    )
    {
        var pieces = await transaction
            .Command(
                """
                select p.id, p.family, p.service_class,
                       (select c.last_periodic from carried_over c join carried_accepted a using (piece_id) where c.piece_id = p.id) as carried,
                       coalesce(array_agg(i.kind order by i.signed_at) filter (where i.id is not null), '{}') as kinds,
                       coalesce(array_agg(i.inspected_on order by i.signed_at) filter (where i.id is not null), '{}') as days,
                       coalesce(array_agg(i.next_by order by i.signed_at) filter (where i.id is not null), '{}') as next
                from piece p left join standing_inspection i on i.piece_id = p.id and i.complete and i.verdict in ('fit', 'watch')
                where p.state not in ('condemned', 'destroyed')
                group by p.id
                """
            )
            .ListAsync(
                r =>
                    (
                        Id: r.Get<Guid>("id"),
                        Due: DueDates.From(
                            Core.Gear.GearFamilies.Find(r.Get<string>("family"))!,
                            Code.Parse<ServiceClass>(r.Get<string>("service_class")),
                            books,
                            r.Get<string[]>("kinds")
                                .Zip(r.Get<DateOnly[]>("days"), r.Get<DateOnly?[]>("next"))
                                .Select(i => new AcceptedInspection(
                                    Code.Parse<InspectionKind>(i.First),
                                    i.Second,
                                    i.Third
                                ))
                                .Concat(Recorder.Carried(r.ValueOrNull<DateOnly>("carried")))
                        )
                    ),
                cancel
            )
            .ConfigureAwait(false);
        await transaction
            .Command(
                """
                update piece p set periodic_due = d.periodic, frequent_due = d.frequent, version = version + 1
                from unnest($1::uuid[], $2::date[], $3::date[]) as d (id, periodic, frequent)
                where p.id = d.id and (p.periodic_due is distinct from d.periodic or p.frequent_due is distinct from d.frequent)
                """
            )
            .Positional(
                pieces.Select(p => p.Id).ToArray(),
                pieces.Select(p => p.Due.Periodic).ToArray(),
                pieces.Select(p => p.Due.Frequent).ToArray()
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
    }
}
