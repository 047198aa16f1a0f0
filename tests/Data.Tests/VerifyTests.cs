using System.Security.Cryptography;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// The record guards itself: whatever is changed behind the application is found, and its piece stopped; also what an earlier
/// program wrote, of which the entries' own words are all there is.
/// </summary>
public class VerifyTests
{
    private static readonly byte[] Key = [.. Enumerable.Range(0, 32).Select(i => (byte)i)];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_the_application_wrote_verifies()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0002"));
        Yard.Must(
            await yard.Signing.SignCleanCheckAsync(await yard.FindAsync("HM-0001"), null, yard.Stamp("crew"), Cancel)
        );
        Assert.Equal([], (await FoundAsync(yard)).Select(f => $"{f.Mark}: {f.Why}"));
    }

    [Theory]
    [InlineData("update piece set state = 'in-service' where mark = 'HM-0002'", "kept as in-service")]
    [InlineData("update piece set open_holds = 0 where mark = 'HM-0002'", "0 open holds")]
    [InlineData("update piece set verdict = 'watch' where mark = 'HM-0002'", "verdict watch")]
    [InlineData("update piece set periodic_due = periodic_due + 365 where mark = 'HM-0002'", "kept as due on")]
    [InlineData("update piece set last_by = null where mark = 'HM-0002'", "somebody else")]
    [InlineData("delete from hold", "kept as held")]
    [InlineData("update inspection set verdict = 'watch'", "something else than its entry")]
    [InlineData(
        "update inspection set case_document = replace(case_document, 'initial', 'periodic')",
        "something else"
    )]
    [InlineData("update inspection set inspected_on = inspected_on - 1", "something else")]
    [InlineData("delete from inspection", "is gone")]
    [InlineData("update hold set placed_at = placed_at + interval '1 hour'", "no entry in the ledger")]
    [InlineData(
        "update baseline set set_by = (select id from person where username = 'auditor')",
        "no entry in the ledger"
    )]
    [InlineData("update piece set rated_load = '90 t', rated_kg = 90000 where mark = 'HM-0002'", "than was entered")]
    [InlineData("update piece set rated_load = null, rated_kg = null where mark = 'HM-0002'", "than was entered")]
    [InlineData("update piece set rated_for = 'any hitch' where mark = 'HM-0002'", "than was entered")]
    [InlineData("update piece set design_factor = 8 where mark = 'HM-0002'", "than was entered")]
    [InlineData("update piece set service_class = 'severe' where mark = 'HM-0002'", "than was entered")]
    [InlineData("update piece set in_service_since = '2019-01-01' where mark = 'HM-0002'", "than was entered")]
    [InlineData(
        "update piece set attributes = attributes || '{\"size\": \"2 in\"}' where mark = 'HM-0002'",
        "than was entered"
    )]
    [InlineData("update baseline set value = '0.8 in'", "figure when new says something else")]
    [InlineData("update baseline set basis = 'catalogue'", "figure when new says something else")]
    [InlineData(
        "update piece set details = details || '{\"ratedAngle\": \"60 deg\"}' where mark = 'HM-0002'",
        "than was entered of it: ratedAngle"
    )]
    [InlineData(
        "update piece set details = details || '{\"discardOn\": \"2099-01-01\"}' where mark = 'HM-0002'",
        "than was entered of it: discardOn"
    )]
    [InlineData(
        "update piece set surroundings = '{\"hottest\": \"20 C\"}' where mark = 'HM-0002'",
        "than was entered of it: hottest"
    )]
    [InlineData("update piece set tag_entries = '{}' where mark = 'HM-0002'", "than was entered of it: tag:")]
    [InlineData("update piece set tag_read = false where mark = 'HM-0002'", "than was entered of it: tagUnread")]
    [InlineData("update hold set reason = 'Scratched'", "A hold says something else")]
    [InlineData("update hold set cause = 'rules-changed'", "A hold says something else")]
    public async Task What_was_changed_behind_it_is_found_and_stops_the_piece(string sql, string why)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        foreach (var table in new[] { "inspection", "hold", "baseline", "ledger" })
            await yard.AsOwnerAsync($"alter table {table} disable trigger user");
        await yard.AsOwnerAsync(sql);
        var found = await FoundAsync(yard);
        Assert.Contains(found, f => f.Mark == "HM-0002" && f.Why.Contains(why, StringComparison.Ordinal));
        var piece = await yard.FindAsync("HM-0002");
        var use = piece.UseOn(DateOnly.FromDateTime(yard.Now.Date), await yard.Sites.GetAsync(Cancel));
        Assert.Contains(use.Reasons, r => r.StartsWith("Its records do not verify", StringComparison.Ordinal));
    }

    /// <summary>What can't be compared is named, and hides nothing of the others.</summary>
    [Fact]
    public async Task An_entry_that_can_not_be_read_stops_its_own_piece_and_no_other()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        await yard.InServiceAsync(Seed.Shackle("HM-0003"));
        await yard.AsOwnerAsync("alter table ledger disable trigger user");
        await yard.AsOwnerAsync(
            """
            update ledger set data = (data::jsonb || '{"designFactor": "five", "links:body:shackle.wear-body": "few"}')::text
            where subject = 'HM-0001' and kind = 'piece.registered'
            """
        );
        await yard.AsOwnerAsync("update piece set rated_for = 'any hitch' where mark = 'HM-0003'");
        var found = await FoundAsync(yard);
        Assert.Contains(found, f => f.Mark == "HM-0001" && f.Why.Contains("designFactor", StringComparison.Ordinal));
        Assert.Contains(found, f => f.Mark == "HM-0003" && f.Why.Contains("ratedFor", StringComparison.Ordinal));
        Assert.DoesNotContain(found, f => f.Mark == "HM-0002");
        Assert.NotNull((await yard.FindAsync("HM-0001")).Distrust);
    }

    [Theory]
    [InlineData("update retag set proof = 'by its colour'", "(new tag) says something else")]
    [InlineData(
        "update retag set by_person = (select id from person where username = 'crew')",
        "(new tag) has no entry"
    )]
    [InlineData("update disposal set reason = 'worn'", "(condemning) says something else")]
    public async Task A_new_tag_and_a_condemning_told_otherwise_are_found(string sql, string why)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        var piece = await yard.FindAsync("HM-0002");
        Yard.Must(
            await yard.Custody.RetagAsync(
                piece.Id,
                piece.Version,
                "by its serial",
                "the maker",
                yard.Stamp("qualified"),
                Cancel
            )
        );
        piece = await yard.FindAsync("HM-0002");
        Yard.Must(await yard.Custody.CondemnAsync(piece.Id, piece.Version, "bent", yard.Stamp("qualified"), Cancel));
        Assert.Empty(await FoundAsync(yard));
        await yard.AsOwnerAsync("alter table retag disable trigger user; alter table disposal disable trigger user");
        await yard.AsOwnerAsync(sql);
        Assert.Contains(await FoundAsync(yard), f => f.Why.Contains(why, StringComparison.Ordinal));
    }

    /// <summary>What is taken out whole, with everything kept of it, leaves its entry behind.</summary>
    [Theory]
    [InlineData("delete from retag", "(new tag) that is gone")]
    [InlineData(
        "delete from hold where id not in (select hold_id from release); update piece set open_holds = 0, state = 'in-service'",
        "(hold) that is gone"
    )]
    [InlineData("delete from release; update piece set open_holds = 1, state = 'held'", "(end of a hold) that is gone")]
    [InlineData("update piece set mark = 'HM-0777' where mark = 'HM-0001'", "HM-0001 was registered")]
    [InlineData(
        "insert into supersession select id, null, 'Never made', signed_at, signed_by from inspection where kind = 'periodic'",
        "(withdrawal of an inspection) has no entry"
    )]
    public async Task What_the_ledger_tells_of_and_the_record_has_no_more_is_found(string sql, string why)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0002"));
        var piece = await yard.FindAsync("HM-0002");
        var by = yard.Stamp("qualified");
        Yard.Must(await yard.Custody.RetagAsync(piece.Id, piece.Version, "by its serial", "the maker", by, Cancel));
        Assert.Empty(await FoundAsync(yard));
        await yard.AsOwnerAsync($"set session_replication_role = replica; {sql}");
        Assert.Contains(await FoundAsync(yard), f => f.Why.Contains(why, StringComparison.Ordinal));
    }

    /// <summary>A key nobody can read is said, and everything else is verified all the same.</summary>
    [Fact]
    public async Task A_key_of_the_heads_that_can_not_be_read_is_said()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var heads = new TreeHeadStore(yard.Database);
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var named = new HeadKeyRow(
            TreeHead.FingerprintOf(key),
            key.ExportSubjectPublicKeyInfoPem(),
            "sealed",
            yard.Now
        );
        await heads.AddKeyAsync(named, Cancel);
        Assert.NotNull(await heads.SignAsync("Test works", key, yard.Now, again: false, Cancel));
        Assert.Empty(await FoundAsync(yard));
        await yard.AsOwnerAsync("set session_replication_role = replica; update head_key set public_pem = 'none'");
        await yard.AsOwnerAsync("update piece set verdict = 'watch'");
        var found = await FoundAsync(yard);
        Assert.Contains(found, f => f.Mark is null && f.Why.Contains("can't be read", StringComparison.Ordinal));
        Assert.Contains(found, f => f.Mark == "HM-0001");
    }

    [Fact]
    public async Task A_hold_for_a_missing_marking_that_an_inspection_found_verifies()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(
            await yard.InspectAsync("HM-0002", InspectionKind.Periodic, ("body", "id.marking", new(Answer: "yes")))
        );
        await using var cause = yard.Database.Command("select cause from hold");
        Assert.Equal("marking", await cause.ExecuteScalarAsync(Cancel));
        Assert.Empty(await FoundAsync(yard));
    }

    [Theory]
    [InlineData("update hold set cause = 'doubt'", "A hold says something else")]
    [InlineData("update hold set cause = 'marking'", "A hold says something else")]
    [InlineData("update release set reason = 'Looked at'", "The end of a hold says something else")]
    public async Task A_verdicts_hold_made_a_doubt_and_an_end_told_otherwise_are_found(string sql, string why)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(
            await yard.InspectAsync(
                "HM-0002",
                InspectionKind.Periodic,
                ("body", "shackle.deformed", new(Answer: "yes"))
            )
        );
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0002"));
        Assert.Empty(await FoundAsync(yard));
        await yard.AsOwnerAsync("alter table hold disable trigger user; alter table release disable trigger user");
        await yard.AsOwnerAsync(sql);
        Assert.Contains(await FoundAsync(yard), f => f.Why.Contains(why, StringComparison.Ordinal));
    }

    [Fact]
    public async Task What_verifies_again_may_be_used_again()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        await yard.AsOwnerAsync("update piece set verdict = 'watch'");
        Assert.NotEmpty(await FoundAsync(yard));
        Assert.NotNull((await yard.FindAsync("HM-0002")).Distrust);
        await yard.AsOwnerAsync("update piece set verdict = 'fit'");
        Assert.Empty(await FoundAsync(yard));
        Assert.Null((await yard.FindAsync("HM-0002")).Distrust);
    }

    [Theory]
    [InlineData("delete from ledger where number > 2", "has fewer now")]
    [InlineData("truncate ledger", "has fewer now")]
    [InlineData("update ledger_head set signature = sha256('forged')", "not sealed by this works")]
    [InlineData("update ledger_head set hash = sha256('another')", "is another than")]
    public async Task A_ledger_cut_short_emptied_or_forked_no_longer_meets_its_head(string sql, string why)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        await new VerifyStore(yard.Database, Key).SealAsync(yard.Now, Cancel);
        Assert.Empty(await FoundAsync(yard));
        foreach (var table in new[] { "ledger", "ledger_head" })
            await yard.AsOwnerAsync($"alter table {table} disable trigger user");
        await yard.AsOwnerAsync(sql);
        Assert.Contains(await FoundAsync(yard), f => f.Mark is null && f.Why.Contains(why, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("update person set roles = array['crew', 'admin'] where username = 'bo'", "roles of bo")]
    [InlineData(
        "update authorisation set until = '2199-12-31' where set_by <> person_id",
        "authorisation of inspector"
    )]
    [InlineData(
        "insert into authorisation (person_id, family_group, until, set_at, set_by) select id, 'sling', '2199-12-31', now() + interval '1 hour', id from person where username = 'inspector2'",
        "authorisation of inspector2"
    )]
    public async Task Rights_that_the_ledger_does_not_give_are_found(string sql, string why)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        var bo = Core.People.Accounts.Read("bo", "Bo", ["crew"], "").Value;
        Yard.Must(await new AccountStore(yard.Database).InviteAsync(bo, "secret", yard.Stamp("admin"), Cancel));
        yard.Now = DateTimeOffset.UtcNow.AddHours(1);
        var until = new Core.People.Authorisation(Core.Gear.FamilyGroup.Hoist, new(2027, 1, 1));
        Yard.Must(
            await new PeopleStore(yard.Database).AuthoriseAsync(
                Seed.People["inspector"].Id,
                until,
                yard.Stamp("admin"),
                Cancel
            )
        );
        Assert.Empty(await FoundAsync(yard));
        await yard.AsOwnerAsync("alter table authorisation disable trigger user");
        await yard.AsOwnerAsync(sql);
        Assert.Contains(await FoundAsync(yard), f => f.Mark is null && f.Why.Contains(why, StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_head_is_kept_once_for_each_height()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        var verify = new VerifyStore(yard.Database, Key);
        await verify.SealAsync(yard.Now, Cancel);
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        await verify.SealAsync(yard.Now, Cancel);
        await verify.SealAsync(yard.Now.AddHours(1), Cancel);
        await using var heads = yard.Database.Command("select count(*)::int from ledger_head");
        Assert.Equal(1, await heads.ExecuteScalarAsync(Cancel));
    }

    private static async Task<IReadOnlyList<Unverified>> FoundAsync(Yard yard) =>
        await new VerifyStore(yard.Database, Key).RunAsync(yard.Now, Cancel);
}
