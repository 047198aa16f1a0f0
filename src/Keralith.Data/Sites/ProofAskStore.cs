using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>A piece that a proof test asked from now on stops.</summary>
/// <param name="Until">How long its test holds by the new rule; null: none is on record.</param>
public sealed record ProofStop(string Mark, string Family, string Store, DateOnly? Until);

/// <summary>Proof tests that makers and sites ask again and again.</summary>
public sealed class ProofAskStore(Database database)
{
    /// <summary>What is asked, with the number of the site that asks it, on a trip made with other questions.</summary>
    public static Asked<List<(int Site, ProofAskRow Row)>> InForce(Trip trip) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select site_id, maker, model, family, months, reason, set_at, name as set_by from (
                  select distinct on (site_id, maker, model, family) a.*, w.name
                  from proof_ask a join person w on w.id = a.set_by
                  order by site_id, maker, model, family, a.id desc) newest
                order by id desc
                """
            ),
            r =>
                (
                    Site: r.Get<int>("site_id"),
                    Key: ProofAskRow.KeyOf(
                        r.Get<int>("site_id"),
                        r.Get<string>("maker"),
                        r.Get<string>("model"),
                        r.Get<string>("family")
                    ),
                    Row: r.ValueOrNull<int>("months") is { } months
                        ? new ProofAskRow(
                            r.Get<string>("maker"),
                            r.Get<string>("model"),
                            GearFamilies.Find(r.Get<string>("family")),
                            months,
                            r.Get<string>("reason"),
                            r.Get<DateTimeOffset>("set_at"),
                            r.Get<string>("set_by")
                        )
                        : null
                ),
            // Core says which are one: the newest of each is in force, and those withdrawn are not.
            set =>
                set.DistinctBy(a => a.Key)
                    .Where(a => a.Row is not null)
                    .Select(a => (a.Site, a.Row!))
                    .OrderBy(a => a.Item2.Maker, StringComparer.Ordinal)
                    .ThenBy(a => a.Item2.Model, StringComparer.Ordinal)
                    .ThenBy(a => a.Item2.Family?.Code, StringComparer.Ordinal)
                    .ToList()
        );

    /// <summary>Asks a proof test again and again from now on, or no more; due dates follow at once.</summary>
    public Task<Checked<Recorded>> SetAsync(EnteredProofAsk given, Stamp stamp, CancellationToken cancel) =>
        Session.RunAtSiteAsync(
            database,
            given.Site,
            stamp,
            async session =>
            {
                var read = ProofAskActs.Set(given, session.Site.ProofAsks, session.By);
                if (!read.Ok)
                    return read.Refusal;
                var entry = read.Value;
                var sites = session.Sites.With(entry);
                var stops = await session
                    .AskAsync(t => Stopped(t, session.Sites, sites, session.Stamp.At))
                    .ConfigureAwait(false);
                if (StricterRules.RefusalUnseen([.. stops.Select(s => s.Mark)], entry.Stops) is { } unseen)
                    return unseen;
                await session
                    .WriteAsync(
                        """
                        insert into proof_ask (site_id, maker, model, family, months, reason, set_at, set_by)
                        values ($1, $2, $3, $4, $5, $6, $7, $8)
                        """,
                        entry.Site,
                        entry.Maker,
                        entry.Model,
                        entry.Family,
                        entry.Months,
                        entry.Reason,
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session.DeriveAllAsync(sites).ConfigureAwait(false);
                LedgerRecord said = entry.Months is { } months
                    ? new ProofAskSet(entry.Maker, entry.Model, entry.Family, months, entry.Reason)
                    : new ProofAskWithdrawn(entry.Maker, entry.Model, entry.Family, entry.Reason);
                await session
                    .LedgerAsync(said, entry.Maker.Length > 0 ? entry.Maker : session.Site.Subject)
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Which pieces in service a proof test asked from now on would stop.</summary>
    /// <param name="sites">The sites as they are.</param>
    public Task<List<ProofStop>> WouldStopAsync(
        EnteredProofAsk asked,
        SiteSet sites,
        DateTimeOffset now,
        CancellationToken cancel
    ) => database.AskAsync(t => Stopped(t, sites, sites.With(asked), now), cancel);

    private static Asked<List<ProofStop>> Stopped(Trip trip, SiteSet before, SiteSet after, DateTimeOffset now) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                select p.mark, p.family, p.maker, p.model, s.name as store, s.site_id,
                  p.details->>'proofTestDue' as proof_entered, t.tested_on as proven, t.renews
                from piece p join store s on s.id = p.store_id
                {Derivation.LastProof}
                where p.state = 'in-service'
                order by p.mark
                """
            ),
            r =>
            {
                var family = GearFamilies.Find(r.Get<string>("family"))
                    ?? GearFamilies.Unknown(r.Get<string>("family"));
                var facts = Derivation.ProofFrom(r);
                var day = after.Of(r.Get<int>("site_id")).DayOf(now);
                var (was, will) = (By(before), By(after));
                return will.StopsOn(day) && !was.StopsOn(day)
                    ? new ProofStop(r.Get<string>("mark"), family.Name, r.Get<string>("store"), will.Until)
                    : null;

                ProofDue By(SiteSet sites) =>
                    ProofDue.Of(
                        facts with
                        {
                            Months = sites
                                .Of(r.Get<int>("site_id"))
                                .ProofMonthsOf(family, r.TextOrNull("maker"), r.TextOrNull("model")),
                        }
                    );
            },
            rows => rows.OfType<ProofStop>().ToList()
        );
}
