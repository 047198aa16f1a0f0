using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What lies between a hold and scrap: repair, test, recall, evidence.</summary>
public class AfterTheCageTests
{
    private static readonly Signer Stores = GivenPeople.Signer(Role.Stores);
    private static readonly Signer Inspector = GivenPeople.Signer(Role.Inspector);
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);

    private static readonly AwayNow ToTheMaker = new(AwayFor.Repair, "The maker", "New pin", null, Stores.Day);

    [Theory]
    [InlineData("", "New pin", 1, "to whom")]
    [InlineData("The maker", " ", 1, "what is to be done")]
    [InlineData("The maker", "New pin", -1, "past")]
    [InlineData("The maker", "New pin", 0, null)]
    public void What_is_sent_away_goes_to_somebody_for_something(string to, string what, int days, string? words)
    {
        var away = ToTheMaker with { To = to, What = what, Back = Stores.Day.AddDays(days) };
        var sent = Away.Send("HM-1", PieceState.Held, null, null, away, Stores);
        Assert.Equal(words is null, sent.Ok);
        if (words is not null)
            Assert.Contains(words, sent.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_out_or_kept_as_evidence_is_not_sent_away()
    {
        var issued = new IssuedTo("North crew", "", null, Stores.Day);
        Assert.Contains(
            "North crew",
            Away.Send("HM-1", PieceState.Held, issued, null, ToTheMaker, Stores).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "evidence",
            Away.Send("HM-1", PieceState.Held, null, "It failed", ToTheMaker, Stores).Fault,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(0, false)]
    [InlineData(1, true)]
    public void It_is_overdue_after_its_day(int after, bool overdue) =>
        Assert.Equal(overdue, (ToTheMaker with { Back = Stores.Day }).IsOverdueOn(Stores.Day.AddDays(after)));

    [Fact]
    public void What_comes_back_is_held_with_the_shops_note_and_inspected_as_it_came_back()
    {
        var back = Away.TakeBack("HM-1", PieceState.AtRepair, ToTheMaker, "Pin replaced, T-9", true, Stores).Value;
        Assert.Equal((PieceState.Held, HoldCause.Returned), (back.State, back.Hold!.Cause));
        Assert.Contains("load-bearing", back.Hold.Reason, StringComparison.Ordinal);
        Assert.False(Away.TakeBack("HM-1", PieceState.AtRepair, ToTheMaker, " ", true, Stores).Ok);
        Assert.False(Away.TakeBack("HM-1", PieceState.Held, null, "x", true, Stores).Ok);
    }

    private static ReleaseFacts Back(bool lacksProof, bool inspectedSince, Guid inspector) =>
        new(
            PieceState.Held,
            [new(Hold, HoldCause.Returned, new(10))],
            [new(InspectionKind.Periodic, VerdictKind.Fit, new(inspectedSince ? 11 : 9), inspector)],
            null,
            false
        )
        {
            LacksProof = lacksProof,
        };

    private static readonly Guid Hold = Guid.NewGuid();

    [Theory]
    [InlineData(false, true, true, true)]
    [InlineData(true, true, true, false)]
    [InlineData(false, false, true, false)]
    [InlineData(false, true, false, false)]
    public void Repaired_gear_goes_back_after_an_inspection_since_a_proof_and_another_person(
        bool lacksProof,
        bool inspectedSince,
        bool another,
        bool goes
    ) =>
        Assert.Equal(
            goes,
            Cage.Release(
                Back(lacksProof, inspectedSince, another ? Inspector.Person : Qualified.Person),
                Hold,
                "Sound",
                Qualified
            ).Ok
        );

    private static GearPiece Gear(string family, int legs = 1, string? termination = null) =>
        new(
            GearFamilies.Find(family)!,
            [
                new("legs", new WholeValue(legs)),
                .. termination is null
                    ? []
                    : new[]
                    {
                        KeyValuePair.Create("termination", GearAttributes.Find("termination")!.Read(termination).Value),
                    },
            ]
        );

    /// <summary>The band of each family, at its ends, just below and just above.</summary>
    public static TheoryData<string, int, string?, ProofSubject, decimal, bool> Bands =>
        new()
        {
            { "alloy-chain-sling", 1, null, ProofSubject.Leg, 2000, true },
            { "alloy-chain-sling", 1, null, ProofSubject.Leg, 1999.99m, false },
            { "alloy-chain-sling", 1, null, ProofSubject.Leg, 2100, true },
            { "alloy-chain-sling", 1, null, ProofSubject.Leg, 2100.01m, false },
            { "alloy-chain-sling", 1, null, ProofSubject.MasterLink, 4000, false },
            { "alloy-chain-sling", 2, null, ProofSubject.MasterLink, 4000, true },
            { "alloy-chain-sling", 2, null, ProofSubject.MasterLink, 3999.99m, false },
            { "alloy-chain-sling", 3, null, ProofSubject.MasterLink, 6000, true },
            { "alloy-chain-sling", 3, null, ProofSubject.MasterLink, 4000, false },
            { "alloy-chain-sling", 4, null, ProofSubject.MasterLink, 6000, true },
            { "wire-rope-sling", 1, "swaged", ProofSubject.Leg, 2000, true },
            { "wire-rope-sling", 1, "hand-spliced", ProofSubject.Leg, 2000, false },
            { "wire-rope-sling", 1, "hand-spliced", ProofSubject.Leg, 1250, true },
            { "wire-rope-sling", 1, "hand-spliced", ProofSubject.Leg, 1250.01m, false },
            { "web-sling", 1, null, ProofSubject.Leg, 2000, true },
            { "roundsling", 1, null, ProofSubject.Leg, 2000, true },
            { "fiber-rope-sling", 1, null, ProofSubject.Leg, 2000, true },
            { "metal-mesh-sling", 1, null, ProofSubject.Leg, 2000, true },
            { "shackle", 1, null, ProofSubject.Leg, 2000, true },
            { "hook", 1, null, ProofSubject.Leg, 2000, true },
            { "eye-bolt", 1, null, ProofSubject.Leg, 2000, true },
            { "turnbuckle", 1, null, ProofSubject.Leg, 2000, true },
            { "hand-chain-hoist", 1, null, ProofSubject.Leg, 1000, true },
            { "hand-chain-hoist", 1, null, ProofSubject.Leg, 999.99m, false },
            { "hand-chain-hoist", 1, null, ProofSubject.Leg, 1250, true },
            { "hand-chain-hoist", 1, null, ProofSubject.Leg, 1250.01m, false },
            { "lever-hoist", 1, null, ProofSubject.Leg, 1250, true },
            { "powered-hoist", 1, null, ProofSubject.Leg, 1250, true },
            { "lifting-beam", 1, null, ProofSubject.Leg, 1250, true },
            { "lifting-beam", 1, null, ProofSubject.Leg, 1250.01m, false },
            { "lifting-beam", 1, null, ProofSubject.Leg, 1249.99m, false },
            { "sling-kit", 1, null, ProofSubject.Leg, 2000, false },
            { "cargo-net", 1, null, ProofSubject.Leg, 2000, false },
            { "load-indicator", 1, null, ProofSubject.Leg, 1000, false },
        };

    [Theory]
    [MemberData(nameof(Bands))]
    public void A_proof_load_lies_within_the_band_of_its_family(
        string family,
        int legs,
        string? termination,
        ProofSubject subject,
        decimal kilograms,
        bool taken
    )
    {
        var ton = Mass.FromKilograms(1000);
        var test = Proof with { Subject = subject, Load = Mass.FromKilograms(kilograms) };
        var outcome = ProofTests.Record(
            "HM-1",
            PieceState.Held,
            Gear(family, legs, termination),
            ton,
            ton,
            test,
            Inspector
        );
        Assert.Equal(taken, outcome.Ok);
        if (!taken)
            Assert.NotEmpty(outcome.Fault!);
    }

    private static readonly ProofTest Proof = new(
        ProofSubject.Leg,
        Mass.FromKilograms(2000),
        Inspector.Day,
        "Test house",
        "Cell 4",
        Inspector.Day,
        "T-77",
        Passed: true
    );

    /// <summary>Tests with something left out, or that prove nothing.</summary>
    public static TheoryData<string, ProofTest> Wanting =>
        new()
        {
            { "load", Proof with { Load = null } },
            { "When was it tested", Proof with { On = null } },
            { "future", Proof with { On = Inspector.Day.AddDays(1), CalibratedUntil = Inspector.Day.AddDays(9) } },
            { "who made", Proof with { MadeBy = " " } },
            { "measured with", Proof with { Instrument = null } },
            { "measured with", Proof with { CalibratedUntil = null } },
            { "run out", Proof with { CalibratedUntil = Inspector.Day.AddDays(-1) } },
            { "certificate", Proof with { Certificate = "" } },
        };

    [Theory]
    [MemberData(nameof(Wanting))]
    public void A_proof_test_says_all_of_it_or_is_none(string words, ProofTest test)
    {
        var ton = Mass.FromKilograms(1000);
        var outcome = ProofTests.Record("HM-1", PieceState.Held, Gear("shackle"), ton, ton, test, Inspector);
        Assert.Contains(words, outcome.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public void A_failed_test_holds_the_piece_for_condemning_and_an_unknown_rating_is_tested_to_nothing()
    {
        var ton = Mass.FromKilograms(1000);
        var failed = ProofTests.Record(
            "HM-1",
            PieceState.InService,
            Gear("shackle"),
            ton,
            ton,
            Proof with
            {
                Passed = false,
            },
            Inspector
        );
        Assert.Equal((PieceState.Held, HoldCause.VerdictRemove), (failed.Value.State, failed.Value.Hold!.Cause));
        Assert.False(ProofTests.Record("HM-1", PieceState.Held, Gear("shackle"), null, null, Proof, Inspector).Ok);
        var heavy = Mass.FromKilograms(150_001);
        Assert.False(ProofTests.BandOf(Gear("shackle"), ProofSubject.Leg, heavy).Ok);
        Assert.True(ProofTests.BandOf(Gear("shackle"), ProofSubject.Leg, Mass.FromKilograms(150_000)).Ok);
    }

    private static RecallMatch Match(
        string? model = null,
        string? batch = null,
        string? from = null,
        string? to = null,
        string? first = null,
        string? last = null
    ) => RecallMatch.Read("Ostmark", model, batch, from, to, Day(first), Day(last)).Value;

    private static DateOnly? Day(string? day) =>
        day is null ? null : DateOnly.ParseExact(day, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);

    [Theory]
    [InlineData("ostmark ", "X-2", "B7", "K-1500", "2025-03-01", true)]
    [InlineData("Other", "X-2", "B7", "K-1500", "2025-03-01", false)]
    [InlineData(null, "X-2", "B7", "K-1500", "2025-03-01", false)]
    [InlineData("Ostmark", "X-3", "B7", "K-1500", "2025-03-01", false)]
    [InlineData("Ostmark", null, "B7", "K-1500", "2025-03-01", true)]
    [InlineData("Ostmark", "X-2", "B8", "K-1500", "2025-03-01", false)]
    [InlineData("Ostmark", "X-2", null, "K-1500", "2025-03-01", true)]
    [InlineData("Ostmark", "X-2", "B7", "K-1000", "2025-03-01", true)]
    [InlineData("Ostmark", "X-2", "B7", "K-0999", "2025-03-01", false)]
    [InlineData("Ostmark", "X-2", "B7", "k-1999", "2025-03-01", true)]
    [InlineData("Ostmark", "X-2", "B7", "K-2000", "2025-03-01", false)]
    [InlineData("Ostmark", "X-2", "B7", "M-1500", "2025-03-01", false)]
    [InlineData("Ostmark", "X-2", "B7", null, "2025-03-01", true)]
    [InlineData("Ostmark", "X-2", "B7", "K-1500", "2025-01-01", true)]
    [InlineData("Ostmark", "X-2", "B7", "K-1500", "2024-12-31", false)]
    [InlineData("Ostmark", "X-2", "B7", "K-1500", "2025-12-31", true)]
    [InlineData("Ostmark", "X-2", "B7", "K-1500", "2026-01-01", false)]
    [InlineData("Ostmark", "X-2", "B7", "K-1500", null, true)]
    [InlineData("OST-MARK", "x2", "b 7", "K 1500", "2025-03-01", true)]
    [InlineData("Ostmark", "-", "?", "--", "2025-03-01", true)]
    [InlineData("Ostmark", "", " ", "", "2025-03-01", true)]
    [InlineData("-", "X-2", "B7", "K-1500", "2025-03-01", false)]
    [InlineData("Ost Mark 2", "X-2", "B7", "K-1500", "2025-03-01", false)]
    public void A_recall_means_what_agrees_and_what_is_not_known_is_taken_to_agree(
        string? maker,
        string? model,
        string? batch,
        string? serial,
        string? since,
        bool meant
    ) =>
        Assert.Equal(
            meant,
            Match("X-2", "B7", "K-1000", "K-1999", "2025-01-01", "2025-12-31")
                .Matches(new(maker, model, batch, serial, Day(since)))
        );

    [Theory]
    [InlineData("K-1500", true)]
    [InlineData("k-1500 ", true)]
    [InlineData("K1500", true)]
    [InlineData("K-1501", false)]
    [InlineData("K-1500A", false)]
    public void One_serial_alone_is_that_piece(string serial, bool meant) =>
        Assert.Equal(meant, Match(from: "K-1500").Matches(new("Ostmark", null, null, serial, null)));

    /// <summary>A serial that says more than the range leaves in doubt whether it is meant: it is held until somebody looked.</summary>
    [Theory]
    [InlineData("K-1000", true)]
    [InlineData("K-0999", false)]
    [InlineData("K-999", false)]
    [InlineData("K-1999", true)]
    [InlineData("K-2000", false)]
    [InlineData("K-01500", true)]
    [InlineData("K-1500A", true)]
    [InlineData("K 1500 rev 2", true)]
    [InlineData("K-0999A", false)]
    [InlineData("K-2000/1500", false)]
    [InlineData("1500", false)]
    [InlineData("MK-1500", false)]
    [InlineData("K", true)]
    [InlineData("K-000000000000001500", true)]
    [InlineData("K-999999999999999999", false)]
    [InlineData("K-9999999999999999999", true)]
    public void A_serial_within_a_range_is_meant_and_so_is_one_in_doubt(string serial, bool meant) =>
        Assert.Equal(meant, Match(from: "K-1000", to: "K-1999").Matches(new("Ostmark", null, null, serial, null)));

    [Theory]
    [InlineData("", "X-2", null, null, "maker")]
    [InlineData("-", "X-2", null, null, "maker")]
    [InlineData("Ostmark", "-", null, null, "at least")]
    [InlineData("Ostmark", null, null, null, "at least")]
    [InlineData("Ostmark", null, null, "K-9", "begins")]
    [InlineData("Ostmark", null, "K-9", "K-8", "no range")]
    [InlineData("Ostmark", null, "K-9", "M-10", "no range")]
    [InlineData("Ostmark", null, "K-9", "K", "no range")]
    [InlineData("Ostmark", null, "K-9", "K-9", null)]
    public void A_recall_names_some_gear_and_not_all_a_maker_ever_made(
        string maker,
        string? model,
        string? from,
        string? to,
        string? words
    )
    {
        var read = RecallMatch.Read(maker, model, null, from, to, null, null);
        Assert.Equal(words is null, read.Ok);
        if (words is not null)
            Assert.Contains(words, read.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(Role.Crew, false)]
    [InlineData(Role.Stores, false)]
    [InlineData(Role.Inspector, false)]
    [InlineData(Role.Qualified, true)]
    [InlineData(Role.Admin, true)]
    public void Who_may_call_gear_back(Role role, bool may) =>
        Assert.Equal(may, Recalls.RefusalToSet("Cracks", "Notice 4", GivenPeople.Signer(role)) is null);

    /// <summary>Gear of a spelling it did not know then; whose hold by it was let go is done with, unless another recall means it.</summary>
    [Theory]
    [InlineData("OST-MARK", "x 2", null, true)]
    [InlineData("Ostmark", null, null, true)]
    [InlineData("Ostmark", "X-3", null, false)]
    [InlineData(null, "X-2", null, false)]
    [InlineData("Ostmark", "X-2", "this one", false)]
    [InlineData("Ostmark", "X-2", "another", true)]
    public void What_a_recall_means_and_never_held_is_missed(string? maker, string? model, string? heldBy, bool missed)
    {
        var (recall, other) = (new StandingRecall(Guid.NewGuid(), Match("X-2"), "Cracks"), Guid.NewGuid());
        HashSet<(Guid, Guid)> held = heldBy is null ? [] : [(heldBy == "another" ? other : recall.Id, Hold)];
        Assert.Equal(missed ? [Hold] : [], Recalls.Missed(recall, [(Hold, new(maker, model, null, null, null))], held));
    }

    [Theory]
    [InlineData(Role.Crew, false, 1, RefusalKind.Forbidden)]
    [InlineData(Role.Inspector, false, 1, RefusalKind.Forbidden)]
    [InlineData(Role.Qualified, false, 1, null)]
    [InlineData(Role.Admin, false, 1, null)]
    [InlineData(Role.Admin, false, 0, RefusalKind.Conflict)]
    [InlineData(Role.Admin, true, 1, RefusalKind.Conflict)]
    public void What_a_recall_missed_is_held_by_whoever_may_recall_while_it_stands(
        Role role,
        bool ended,
        int missed,
        RefusalKind? refused
    ) => Assert.Equal(refused, Recalls.RefusalToHoldMissed(ended, missed, GivenPeople.Signer(role))?.Kind);

    [Fact]
    public void Who_set_a_recall_lets_it_go_and_nobody_else()
    {
        var admin = GivenPeople.Signer(Role.Admin);
        Assert.Null(Recalls.RefusalToEnd(Qualified.Person, false, "Sound", Qualified));
        Assert.Equal(RefusalKind.Forbidden, Recalls.RefusalToEnd(Qualified.Person, false, "Sound", admin)!.Kind);
        Assert.NotNull(Recalls.RefusalToEnd(Qualified.Person, true, "Sound", Qualified));
        Assert.NotNull(Recalls.RefusalToEnd(Qualified.Person, false, " ", Qualified));

        var hold = new OpenHold(Hold, HoldCause.Recall, new(1)) { PlacedBy = admin.Person };
        ReleaseFacts facts = new(PieceState.Held, [hold], [], null, false);
        Assert.True(Cage.Release(facts, Hold, "The maker says so", admin).Ok);
        Assert.False(Cage.Release(facts, Hold, "The maker says so", Qualified).Ok);
    }

    [Fact]
    public void Evidence_stays_as_it_is_until_somebody_qualified_lets_it()
    {
        const string Why = "Hook opened under load";
        Assert.True(EvidenceLock.Put(PieceState.Held, null, Why, Inspector).Ok);
        Assert.False(EvidenceLock.Put(PieceState.Held, Why, Why, Inspector).Ok);
        Assert.False(EvidenceLock.Put(PieceState.Held, null, " ", Inspector).Ok);
        Assert.False(EvidenceLock.Put(PieceState.Held, null, Why, Stores).Ok);
        Assert.False(EvidenceLock.Lift(PieceState.Held, Why, "Done", Inspector).Ok);
        Assert.False(EvidenceLock.Lift(PieceState.Held, Why, "", Qualified).Ok);
        Assert.False(EvidenceLock.Lift(PieceState.Held, null, "Done", Qualified).Ok);
        Assert.Contains(
            Why,
            Cage.Destroy(PieceState.Condemned, "Cut", Guid.NewGuid(), "x", "", Qualified, Why).Fault,
            StringComparison.Ordinal
        );
        Assert.IsType<EvidenceUnlocked>(EvidenceLock.Lift(PieceState.Held, Why, "Done", Qualified).Value.Record);
    }

    [Theory]
    [InlineData("The driver", 0, "It let go with a bang.", true)]
    [InlineData("The driver", -400, "It let go with a bang.", true)]
    [InlineData("The driver", 1, "It let go with a bang.", false)]
    [InlineData("The driver", null, "It let go with a bang.", false)]
    [InlineData(" ", 0, "It let go with a bang.", false)]
    [InlineData(null, 0, "It let go with a bang.", false)]
    [InlineData("The driver", 0, " ", false)]
    public void A_witness_is_taken_down_by_name_by_day_and_in_their_own_words(
        string? who,
        int? days,
        string words,
        bool taken
    )
    {
        var day = days is { } d ? Inspector.Day.AddDays(d) : (DateOnly?)null;
        foreach (var state in Enum.GetValues<PieceState>())
        {
            var outcome = Witness.Take(state, who, day, words, Inspector);
            Assert.Equal(taken, outcome.Ok);
            if (taken)
                Assert.Equal(state, outcome.Value.State);
        }
    }

    [Fact]
    public void A_witness_may_say_four_thousand_letters_and_not_one_more()
    {
        Assert.True(Witness.Take(PieceState.Held, "A", Inspector.Day, new('x', Witness.MostWords), Inspector).Ok);
        Assert.False(Witness.Take(PieceState.Held, "A", Inspector.Day, new('x', Witness.MostWords + 1), Inspector).Ok);
        Assert.Equal(
            RefusalKind.Forbidden,
            Witness.Take(PieceState.Held, "A", Inspector.Day, "x", Stores).Refusal!.Kind
        );
    }
}
