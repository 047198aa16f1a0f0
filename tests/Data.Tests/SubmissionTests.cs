using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// What is signed is what is recorded: an id belongs to one act by one person with one content, and what came before
/// what is asked of the facts' numbers, never of a clock.
/// </summary>
public class SubmissionTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_same_again_is_the_same_record()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var stamp = yard.Stamp("crew") with { Content = [1, 2, 3] };
        var first = await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", stamp, Cancel);
        var second = await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", stamp, Cancel);
        Assert.Equal((false, true), (first.Value.Repeated, second.Value.Repeated));
        Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel));
    }

    [Fact]
    public async Task One_id_on_the_hold_forms_of_two_pieces_does_not_leave_the_second_in_use()
    {
        await using var yard = await Yard.OpenAsync();
        var (one, two) = (
            await yard.InServiceAsync(Seed.Shackle("HM-0002")),
            await yard.InServiceAsync(Seed.Shackle("HM-0003"))
        );
        var stamp = yard.Stamp("crew") with { Content = [1] };
        Yard.Must(await yard.Custody.HoldAsync(one.Id, HoldCause.Doubt, "Bent", stamp, Cancel));
        var second = await yard.Custody.HoldAsync(
            two.Id,
            HoldCause.Doubt,
            "Bent",
            stamp with
            {
                Content = [2],
            },
            Cancel
        );
        Assert.Equal(RefusalKind.Conflict, second.Refusal!.Kind);
    }

    [Fact]
    public async Task An_id_of_somebody_else_or_of_another_act_is_refused()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var stamp = yard.Stamp("crew");
        Yard.Must(await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", stamp, Cancel));
        var other = await yard.Custody.HoldAsync(
            piece.Id,
            HoldCause.Doubt,
            "Bent",
            stamp with
            {
                Actor = Seed.People["stores"],
            },
            Cancel
        );
        Assert.Equal(RefusalKind.Conflict, other.Refusal!.Kind);
        var check = await yard.Signing.SignCleanCheckAsync(piece, null, stamp, Cancel);
        Assert.Equal(RefusalKind.Conflict, check.Refusal!.Kind);
    }

    [Fact]
    public async Task Crew_can_not_burn_an_inspectors_draft()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var (draft, version) = await yard.DraftAsync("HM-0002", InspectionKind.Periodic);
        var burn = yard.Stamp("crew") with { Submission = draft };
        Assert.Equal(
            RefusalKind.Conflict,
            (await yard.Signing.SignCleanCheckAsync(piece, null, burn, Cancel)).Refusal!.Kind
        );
        Assert.Equal(
            RefusalKind.Conflict,
            (await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", burn, Cancel)).Refusal!.Kind
        );
        Yard.Must(await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel));
        Assert.Equal(2, (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Count);
    }

    [Fact]
    public async Task A_node_a_day_ahead_closes_no_hold_without_a_look()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        yard.Now = yard.Now.AddDays(1);
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        yard.Now = yard.Now.AddDays(-1);
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        var closed = await yard.ReleaseAsync("qualified", "HM-0002");
        Assert.Contains("Inspect it again first", closed.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_node_a_day_behind_does_not_keep_a_look_made_after_the_hold_from_counting()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        yard.Now = yard.Now.AddDays(1);
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        yard.Now = yard.Now.AddDays(-1).AddHours(1);
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0002"));
    }

    [Fact]
    public async Task What_the_database_dates_is_dated_by_its_clock()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var ahead = yard.Stamp("crew") with { At = DateTimeOffset.UtcNow.AddDays(1), ByDatabase = true };
        Yard.Must(await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", ahead, Cancel));
        var hold = Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel));
        Assert.InRange(hold.PlacedAt, DateTimeOffset.UtcNow.AddMinutes(-2), DateTimeOffset.UtcNow.AddMinutes(2));
    }

    [Theory]
    [InlineData(0, null)]
    [InlineData(59, null)]
    [InlineData(-59, null)]
    [InlineData(90, "clock is 1.5 minutes off")]
    [InlineData(-90, "clock is -1.5 minutes off")]
    public async Task A_node_whose_clock_is_off_by_over_a_minute_is_not_ready(int seconds, string? says)
    {
        await using var yard = await Yard.OpenAsync();
        var fault = await yard.Database.FaultAsync(DateTimeOffset.UtcNow.AddSeconds(seconds), Cancel);
        Assert.Equal(says is null, fault is null);
        Assert.Contains(says ?? "", fault ?? "", StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("delete from schemaversions where scriptname like '%0012%'", "older than this program")]
    [InlineData(
        "insert into schemaversions (scriptname, applied) values ('0999_later.sql', now())",
        "newer than this program"
    )]
    [InlineData("drop table schemaversions", "not set up")]
    public async Task A_database_that_is_older_newer_or_empty_is_not_ready(string sql, string says)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.AsOwnerAsync(sql);
        Assert.Contains(says, await yard.Database.FaultAsync(DateTimeOffset.UtcNow, Cancel), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(1, "future")]
    [InlineData(0, null)]
    [InlineData(-1, "registered on 2026-03-02")]
    public async Task An_inspection_is_dated_from_the_day_of_registration_to_the_sites_day(int days, string? refused)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var (draft, version) = await yard.DraftAsync("HM-0002", InspectionKind.Initial);
        var day = new DateOnly(2026, 3, 2).AddDays(days);
        var signed = await yard.Signing.SignAsync(draft, new(version, day), yard.Stamp("inspector"), Cancel);
        Assert.Equal(refused is null, signed.Ok);
        Assert.Contains(refused ?? "", signed.Fault ?? "", StringComparison.Ordinal);
    }
}
