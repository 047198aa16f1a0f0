using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;
using Outcome = Keralith.Core.Gear.Outcome;

namespace Keralith.Core.Tests;

/// <summary>Lifts that were called carried and are not: what hangs below, what collects, nets, kits, what nobody has said.</summary>
public class CarriedTests
{
    [Theory]
    [InlineData("basket")]
    [InlineData("choker")]
    public void A_net_is_never_doubled_nor_choked(string hitch)
    {
        const string Net = """{"family":"cargo-net","ratedLoad":"3000 kg","designFactor":5}""";
        Assert.Equal(
            LiftOutcome.NotPermitted,
            GivenLift.Alike(Net, 1, "90 deg", hitch, ",\"chokeAngle\":\"130 deg\",\"bendRatio\":30").Outcome
        );
        Assert.NotEqual(LiftOutcome.NotPermitted, GivenLift.Alike(Net, 1, "90 deg").Outcome);
    }

    [Theory]
    [InlineData("40 kg", "10 kg", 2050)]
    [InlineData("0.1 kg", "0.1 kg", 2000.2)]
    public void What_hangs_above_sees_all_that_hangs_below_it(string sling, string hook, double demand)
    {
        var verdict = Verdict(
            One("2 t"),
            Piece("HM-0001", "powered-hoist", "2.1 t", ("ownWeight", "300 kg")),
            Piece("HM-0002", "hook", "5 t", ("ownWeight", hook)),
            Piece("HM-0003", "alloy-chain-sling", "5 t", ("ownWeight", sling))
        );
        Assert.Equal(demand, (double)verdict.Result!.Above[0].Demand!.Value, 3);
        Assert.Equal(demand - (double)Mass.Parse(hook).Kilograms, (double)verdict.Result.Above[1].Demand!.Value, 3);
    }

    [Fact]
    public void A_hoist_at_nearly_its_rating_is_over_it_with_its_rigging()
    {
        var verdict = Verdict(
            One("1.95 t"),
            Piece("HM-0001", "powered-hoist", "2 t", ("ownWeight", "300 kg")),
            Piece("HM-0002", "hook", "5 t", ("ownWeight", "20 kg")),
            Piece("HM-0003", "alloy-chain-sling", "5 t", ("ownWeight", "31 kg"))
        );
        Assert.Equal(LiftOutcome.Overloaded, verdict.Outcome);
    }

    [Theory]
    [InlineData("1.7 t", LiftOutcome.Caution)]
    [InlineData("1799.999999 kg", LiftOutcome.Caution)]
    [InlineData("1.81 t", LiftOutcome.Ask)]
    public void A_weight_nobody_knows_is_said_and_asked_about_where_little_is_left(string load, LiftOutcome outcome)
    {
        var verdict = Verdict(
            One(load),
            Piece("HM-0001", "powered-hoist", "2 t"),
            Piece("HM-0002", "hook", "5 t", ("ownWeight", "0.000001 kg")),
            Piece("HM-0003", "alloy-chain-sling", "5 t")
        );
        Assert.Equal(outcome, verdict.Result!.Remarks.Single(r => r.Text.Contains("HM-0003")).Outcome);
        Assert.DoesNotContain(
            "HM-0001",
            verdict.Result.Remarks.Single(r => r.Text.Contains("HM-0003")).Text,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("30 kg", 2050)]
    [InlineData("90 kg", 2100)]
    public void A_weight_typed_for_the_rigging_counts_where_it_is_more(string typed, double demand)
    {
        var fields = One("2 t");
        fields["rigging"] = typed;
        var verdict = Verdict(
            fields,
            Piece("HM-0001", "powered-hoist", "5 t"),
            Piece("HM-0002", "hook", "5 t", ("ownWeight", "10 kg")),
            Piece("HM-0003", "alloy-chain-sling", "5 t", ("ownWeight", "40 kg"))
        );
        Assert.Equal(demand, (double)verdict.Result!.Above[0].Demand!.Value, 3);
    }

    [Theory]
    [InlineData("hook", "45", true)]
    [InlineData("hook", "44.9", false)]
    [InlineData("shackle", "30", true)]
    [InlineData("shackle", "29.9", false)]
    [InlineData("link-or-ring", "30", true)]
    public void Separate_slings_meet_at_the_angle_of_the_geometry_whatever_was_left_blank(
        string collects,
        string angle,
        bool may
    )
    {
        var piece = Two(angle, collects).Result!.Above[0];
        Assert.Equal(may, piece.Outcome < LiftOutcome.NotPermitted);
    }

    [Theory]
    [InlineData("45", LiftOutcome.NotPermitted)]
    [InlineData("46", null)]
    public void The_hook_of_a_hoist_collects_no_wider_than_another(string angle, LiftOutcome? outcome)
    {
        var verdict = Two(angle == "45" ? "44.9" : angle, "powered-hoist");
        Assert.Equal(
            outcome,
            verdict
                .Result!.Remarks.Where(r => r.Text.Contains("meet in the hook", StringComparison.Ordinal))
                .Select(r => (LiftOutcome?)r.Outcome)
                .SingleOrDefault()
        );
    }

    [Fact]
    public void A_sling_of_two_legs_is_one_connection()
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("legs", "2"),
            ("angle", "40"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "above"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "legs")
        );
        var sling = Piece("HM-0002", "alloy-chain-sling", "5 t", ("legs", "2"));
        Assert.NotEqual(
            LiftOutcome.NotPermitted,
            Verdict(fields, Piece("HM-0001", "hook", "5 t"), sling).Result!.Above[0].Outcome
        );
    }

    [Fact]
    public void More_than_two_eyes_in_a_hook_are_gathered_in_a_link()
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("legs", "3"),
            ("angle", "70"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "above"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "leg-1"),
            ("piece-3-mark", "HM-0003"),
            ("piece-3-place", "leg-2"),
            ("piece-4-mark", "HM-0004"),
            ("piece-4-place", "leg-3")
        );
        LiftGear[] slings =
        [
            .. new[] { "HM-0002", "HM-0003", "HM-0004" }.Select(m => Piece(m, "alloy-chain-sling", "5 t")),
        ];
        LiftPlan plan = Plan(fields);
        var gear = slings.Append(Piece("HM-0001", "hook", "9 t")).ToDictionary(g => g.Mark);
        Assert.Contains(PlanVerdict.Of(plan, gear, Asme).Result!.Remarks, r =>
            r.Outcome == LiftOutcome.Caution && r.Text.Contains("3 eyes", StringComparison.Ordinal)
        );
        gear["HM-0001"] = Piece("HM-0001", "link-or-ring", "9 t");
        Assert.DoesNotContain(PlanVerdict.Of(plan, gear, Asme).Result!.Remarks, r =>
            r.Text.Contains("eyes", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("", "", true)]
    [InlineData("blind", "1.5", false)]
    [InlineData("blind", "1.49", true)]
    public void An_eye_bolt_in_a_hole_nobody_has_stated_is_asked_about(string hole, string engaged, bool stops)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("legs", "1"),
            ("angle", "90"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "legs"),
            ("piece-2-hole", hole),
            ("piece-2-engaged", engaged),
            ("piece-2-metal", "steel")
        );
        var verdict = Verdict(
            fields,
            Piece("HM-0001", "alloy-chain-sling", "5 t"),
            Piece("HM-0002", "eye-bolt", "5 t", ("shoulder", "true"))
        );
        Assert.Equal(stops, verdict.Result!.Legs[0].Pieces[1].Outcome > LiftOutcome.Caution);
    }

    [Theory]
    [InlineData("2 t", false)]
    [InlineData("2.0001 t", false)]
    [InlineData("1.9999 t", true)]
    public void What_all_legs_of_a_kit_have_in_common_caps_it(string common, bool over)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "2 t"),
            ("legs", "2"),
            ("angle", "60"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        var kit = Piece("HM-0001", "sling-kit", "9 t", ("legs", "2")) with
        {
            Members =
            [
                .. new[] { "2; hook; 5 t; bears", $"1; apex; {common}; common" }.Select(l => KitMember.Read(l).Value),
            ],
        };
        Assert.Equal(over, Verdict(fields, kit).Outcome == LiftOutcome.Overloaded);
    }

    [Theory]
    [InlineData(PieceState.InService, 0, null)]
    [InlineData(PieceState.InService, -1, "overdue")]
    [InlineData(PieceState.New, 9, "not inspected")]
    [InlineData(PieceState.Held, 9, "on hold")]
    [InlineData(PieceState.Missing, 9, "missing")]
    [InlineData(PieceState.Condemned, 9, "condemned")]
    [InlineData(PieceState.Destroyed, 9, "destroyed")]
    [InlineData(null, 0, "nobody has registered")]
    public void A_kit_is_usable_only_while_every_member_that_bears_is(PieceState? state, int daysLeft, string? why)
    {
        var today = new DateOnly(2026, 3, 2);
        KitMember[] roster =
        [
            KitMember.Read("1; apex; 5 t; common; HM-0009").Value,
            KitMember.Read("1; spare pin; -; spare; HM-0010").Value,
            KitMember.Read("2; hook; 3 t; bears").Value,
        ];
        MemberStanding[] registered = state is { } known
            ? [new("HM-0009", known, new DueDates(today.AddDays(daysLeft), null), null)]
            : [];
        var against = KitUse.Against(roster, registered, today);
        Assert.Equal(why is null, against.Count == 0);
        if (why is not null)
            Assert.Contains(why, Assert.Single(against), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("1/2 in", 3, true)]
    [InlineData("1/2 in", 2, false)]
    [InlineData("3/4 in", 3, false)]
    [InlineData("3/4 in", 4, true)]
    [InlineData("0.76 in", 3, false)]
    [InlineData("1-1/2 in", 7, false)]
    [InlineData("1-1/2 in", 8, true)]
    [InlineData("3/8 in", 1, true)]
    [InlineData("2 in", 1, true)]
    public void A_set_of_clips_of_fewer_than_its_rope_takes_is_held(string rope, int count, bool enough)
    {
        var gear = new GearPiece(
            GearFamilies.Find("wire-rope-clip")!,
            [new("ropeSize", new LengthValue(Length.Parse(rope))), new("count", new WholeValue(count))]
        );
        var tag = TagJudgement.Of(new(gear, ["maker", "size"], Mass.Parse("1 t"), null), Surroundings.Ordinary, Asme);
        Assert.Equal(!enough, tag.Remarks.Any(r => r is { Check: "clips", Outcome: Outcome.Hold }));
    }

    [Theory]
    [InlineData("asme", "185 F", KindFits.Fits)]
    [InlineData("osha", "185 F", KindFits.No)]
    [InlineData("osha", "180 F", KindFits.Fits)]
    [InlineData("asme", "195 F", KindFits.No)]
    [InlineData("asme", "-50 F", KindFits.No)]
    public void Which_kind_obeys_the_sites_books(string book, string temperature, KindFits fits)
    {
        var kinds = SlingKinds.For(
            new()
            {
                Books = [RuleBookShelf.Asme, RuleBookShelf.Find(book)!],
                Temperature = Temperature.Read(temperature).Value,
            }
        );
        Assert.Equal(fits, kinds.Single(k => k.Family.Code == "web-sling").Fits);
        Assert.Equal(fits, kinds.Single(k => k.Family.Code == "roundsling").Fits);
    }

    [Theory]
    [InlineData("1.7 t")]
    [InlineData("1.95 t")]
    [InlineData("2.2 t")]
    public void What_would_help_never_proposes_what_is_there(string load)
    {
        var lift = Plan(
                Fields(
                    ("basis", "known"),
                    ("weight", load),
                    ("legs", "1"),
                    ("angle", "90"),
                    ("piece-1-mark", "HM-0001"),
                    ("piece-1-place", "legs")
                )
            )
            .With(new Dictionary<string, LiftGear> { ["HM-0001"] = Piece("HM-0001", "alloy-chain-sling", "2 t") }, Asme)
            .Lift!;
        var fix = LiftFixes.Of(lift, LiftJudge.Of(lift)).Single(f => f.Text.Contains("marked at least"));
        var marked = decimal.Parse(
            fix.Text.Split("at least ")[1].Split(" t")[0],
            System.Globalization.CultureInfo.InvariantCulture
        );
        Assert.InRange(marked, 2.01m, 3m);
    }

    [Fact]
    public void Contingency_is_told_once_and_truly()
    {
        var fields = Fields(
            ("basis", "estimated"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "1 m"),
            ("part-1-density", "water"),
            ("contingency", "15"),
            ("legs", "1"),
            ("angle", "90"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        var remarks = Verdict(fields, Piece("HM-0001", "alloy-chain-sling", "5 t")).Result!.Remarks;
        var said = Assert.Single(remarks, r => r.Text.Contains("estimate", StringComparison.Ordinal));
        Assert.Contains("15 %", said.Text, StringComparison.Ordinal);
        Assert.DoesNotContain("no contingency", said.Text, StringComparison.Ordinal);
    }

    private static PlanVerdict Two(string angle, string collects) =>
        Verdict(
            Fields(
                ("basis", "known"),
                ("weight", "500 kg"),
                ("legs", "2"),
                ("angle", angle),
                ("piece-1-mark", "HM-0001"),
                ("piece-1-place", "above"),
                ("piece-2-mark", "HM-0002"),
                ("piece-2-place", "leg-1"),
                ("piece-3-mark", "HM-0003"),
                ("piece-3-place", "leg-2")
            ),
            Piece("HM-0001", collects, "9 t"),
            Piece("HM-0002", "alloy-chain-sling", "5 t"),
            Piece("HM-0003", "alloy-chain-sling", "5 t")
        );

    /// <summary>One plumb leg under a hook under a hoist.</summary>
    private static Dictionary<string, string> One(string load) =>
        Fields(
            ("basis", "known"),
            ("weight", load),
            ("legs", "1"),
            ("angle", "90"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "above"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "above"),
            ("piece-3-mark", "HM-0003"),
            ("piece-3-place", "legs")
        );
}
