using System.Text.Json;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using LimitOwner = Keralith.Core.Judgement.LimitOwner;

namespace Keralith.Data;

/// <summary>Changes to the rules a site works to. Each is signed into the ledger with its reason.</summary>
public sealed class SettingsStore(Database database)
{
    /// <summary>Changes books, editions, watch share, policies and time zone; due dates follow at once.</summary>
    public Task<Checked<Recorded>> ChangeSiteAsync(SiteChange change, Stamp stamp, CancellationToken cancel) =>
        Session.RunAtSiteAsync(
            database,
            change.Site,
            stamp,
            async session =>
            {
                if (SiteActs.RefusalToChange(change, session.By) is { } refusal)
                    return refusal;
                if (session.Site.Version != change.Version)
                    return Refusals.SettingsChanged;
                var zone = change.TimeZone ?? session.Site.Zone.Id;
                await session
                    .WriteAsync(
                        """
                        update site
                        set rule_books = $1, editions = $2::jsonb, watch_share = $3, latch_policy = $4, thimble_policy = $5,
                          no_chain_hoisting = $6, back_up_sling = $7, capacity_colours = $8, time_zone = $10, critical_share = $12, version = version + 1,
                          season_scheme = case when $9::boolean is null then season_scheme
                            else jsonb_set(season_scheme, '{enforced}', to_jsonb($9::boolean)) end
                        where id = $11
                        """,
                        change.Books.Select(b => b.Id).ToArray(),
                        JsonSerializer.Serialize(change.Editions),
                        change.WatchShare,
                        change.Policies.Latches,
                        change.Policies.Thimbles,
                        change.Policies.NoChainHoisting,
                        change.Policies.BackUpSling,
                        change.Policies.CapacityColours,
                        change.EnforceSeason,
                        zone,
                        change.Site,
                        change.Policies.CriticalShare
                    )
                    .ConfigureAwait(false);
                var site = change.Of(session.Site);
                var sites = session.Sites.With(site);
                await session.DeriveAllAsync(sites).ConfigureAwait(false);
                var held = await JudgeAgain
                    .HoldAsync(session, sites, SiteActs.Said(change), only: site.Id)
                    .ConfigureAwait(false);
                if (StricterRules.RefusalUnseen([.. held.Select(h => h.Subject)], change.Stops) is { } unseen)
                    return unseen;
                await LedgerStore
                    .AppendAllAsync(
                        session,
                        [
                            (
                                session.Site.Subject,
                                new SiteRules(
                                    [.. change.Books.Select(b => b.Id)],
                                    change.Editions,
                                    change.WatchShare,
                                    JsonSerializer.SerializeToElement(change.Policies, JsonSerializerOptions.Web),
                                    change.EnforceSeason,
                                    zone,
                                    change.Reason
                                )
                            ),
                            .. held,
                        ]
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Sets a limit of the site or a maker; an empty figure withdraws it.</summary>
    public Task<Checked<Recorded>> SetLimitAsync(EnteredLimit given, Stamp stamp, CancellationToken cancel) =>
        Session.RunAtSiteAsync(
            database,
            given.Site,
            stamp,
            async session =>
            {
                var read = SiteActs.SetLimit(given, session.Site.Books, session.By);
                if (!read.Ok)
                    return read.Refusal;
                var (owner, maker, model, criterion, figure, reason) = read.Value;
                await session
                    .WriteAsync(
                        """
                        insert into own_limit (owner, maker, model, criterion, figure, reason, set_at, set_by, site_id)
                        values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
                        """,
                        Code.Of(owner),
                        maker,
                        model,
                        criterion,
                        figure.Length == 0 ? null : figure,
                        reason,
                        session.Stamp.At,
                        stamp.Actor.Id,
                        given.Site
                    )
                    .ConfigureAwait(false);
                LedgerRecord said =
                    figure.Length == 0
                        ? new LimitWithdrawn(Code.Of(owner), maker, model, criterion, figure, reason)
                        : new LimitSet(Code.Of(owner), maker, model, criterion, figure, reason);
                // The limits as they stand with the new one among them.
                var sites = (await session.AskAsync(SiteStore.Sites).ConfigureAwait(false))!;
                var held = await JudgeAgain
                    .HoldAsync(
                        session,
                        sites,
                        SiteActs.Said(read.Value),
                        only: owner == LimitOwner.Site ? given.Site : null
                    )
                    .ConfigureAwait(false);
                if (StricterRules.RefusalUnseen([.. held.Select(h => h.Subject)], read.Value.Stops) is { } unseen)
                    return unseen;
                await LedgerStore
                    .AppendAllAsync(session, [(maker.Length > 0 ? maker : session.Site.Subject, said), .. held])
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );
}
