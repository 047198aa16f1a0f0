using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Quantities;

namespace Keralith.Core.Custody;

/// <summary>What of a piece is tested.</summary>
public enum ProofSubject
{
    /// <summary>The piece; of a sling, one leg of it straight.</summary>
    [Code("leg")]
    Leg,

    /// <summary>The master link of a sling of several legs.</summary>
    [Code("master-link")]
    MasterLink,
}

/// <summary>By how much over its rated load a piece is tested.</summary>
/// <param name="Least">Times the rated load, at least.</param>
/// <param name="Most">At most.</param>
/// <param name="Of">What the rated load is of, in words.</param>
public sealed record ProofBand(decimal Least, decimal Most, string Of)
{
    /// <summary>The band in words: <c>2 times one leg's rated load</c>.</summary>
    public override string ToString() =>
        Least == Most
            ? $"{QuantityFormat.Number(Least)} times {Of}"
            : $"{QuantityFormat.Number(Least)} to {QuantityFormat.Number(Most)} times {Of}";
}

/// <summary>A proof test as it was made.</summary>
/// <param name="Load">What was put on, over 0.</param>
/// <param name="On">The day.</param>
/// <param name="MadeBy">Who made it.</param>
/// <param name="Instrument">What the load was measured with.</param>
/// <param name="CalibratedUntil">How long that instrument's calibration holds; null: nobody said.</param>
/// <param name="Certificate">The certificate's name or number.</param>
public sealed record ProofTest(
    ProofSubject Subject,
    Mass? Load,
    DateOnly? On,
    string? MadeBy,
    string? Instrument,
    DateOnly? CalibratedUntil,
    string? Certificate,
    bool Passed
);

/// <summary>Proof tests: a load over the rated one, within the band of the piece's family (ASME B30).</summary>
public static class ProofTests
{
    /// <summary>How far over a factor that is given as one figure a load may go: a site rule.</summary>
    private const decimal Over = 1.05m;

    private const decimal Twice = 2;
    private const decimal Hoist = 1.25m;

    private static readonly Mass HeaviestShackle = Mass.FromKilograms(150_000);

    /// <summary>The band of a piece.</summary>
    /// <param name="gear">The piece.</param>
    /// <param name="subject">What of it is tested.</param>
    /// <param name="rated">Its rated load as marked; null where it is not known.</param>
    public static Checked<ProofBand> BandOf(GearPiece gear, ProofSubject subject, Mass? rated)
    {
        if (subject == ProofSubject.MasterLink)
            return gear.Family.Group != FamilyGroup.Sling || gear.Legs < 2
                ? new Refusal("Only a sling of several legs has a master link to test.")
                : One(gear.Legs == 2 ? 4 : 6, "one leg's rated load straight");
        return gear.Family.Kind switch
        {
            GearKind.WireRope when gear.Text("termination") == "hand-spliced" => new ProofBand(
                1,
                1.25m,
                "one leg's rated load straight"
            ),
            GearKind.Chain
            or GearKind.WireRope
            or GearKind.Mesh
            or GearKind.FiberRope
            or GearKind.Web
            or GearKind.Roundsling => One(Twice, "one leg's rated load straight"),
            GearKind.Shackle when rated > HeaviestShackle => new Refusal(
                "Over 150 t its maker says how a shackle is tested."
            ),
            GearKind.Shackle
            or GearKind.Link
            or GearKind.Hook
            or GearKind.EyeBolt
            or GearKind.Swivel
            or GearKind.Turnbuckle => One(Twice, "its rated load"),
            GearKind.HungHandHoist or GearKind.PoweredHoist or GearKind.LeverHoist or GearKind.RopeGripHoist =>
                new ProofBand(1, Hoist, "its rated load"),
            GearKind.Beam or GearKind.Clamp => new ProofBand(Hoist, Hoist, "its rated load"),
            GearKind.Kit => new Refusal("A kit is tested member by member."),
            GearKind.Net
            or GearKind.EyeNut
            or GearKind.HoistRing
            or GearKind.Block
            or GearKind.LoadIndicator
            or GearKind.LiftingPoint
            or GearKind.Clip
            or GearKind.WedgeSocket
            or GearKind.Restraint => new Refusal(
                "No band is on record for a proof test of this family: its maker says. Attach the maker's certificate."
            ),
        };
    }

    /// <summary>Records a proof test. One that fails puts the piece on hold, for condemning.</summary>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="gear">The piece.</param>
    /// <param name="rated">Its rated load as marked.</param>
    /// <param name="oneLeg">Of a sling, one leg's rated load straight; else the same as its rated load.</param>
    /// <param name="registered">The day it was registered: nothing is recorded of a day before.</param>
    public static Checked<PieceOutcome> Record(
        string mark,
        PieceState state,
        GearPiece gear,
        Mass? rated,
        Mass? oneLeg,
        ProofTest test,
        Signer by
    )
    {
        if (by.Without(Right.ProofTest) is { } forbidden)
            return forbidden;
        if (state.IsRetired())
            return new Refusal($"{mark} is retired.");
        if (test.Load is not { } load || load.Kilograms <= 0)
            return new Refusal("Write the load that was put on, with its unit.");
        if (test.On is not { } on)
            return new Refusal("When was it tested? Write the day.");
        if (on > by.Day)
            return new Refusal("The day of the test lies in the future.");
        if (string.IsNullOrWhiteSpace(test.MadeBy))
            return new Refusal("Write who made the test.");
        if (string.IsNullOrWhiteSpace(test.Instrument) || test.CalibratedUntil is not { } until)
            return new Refusal("Write what the load was measured with, and until when its calibration holds.");
        if (until < on)
            return new Refusal("Its instrument's calibration had run out on the day of the test: it proves nothing.");
        if (string.IsNullOrWhiteSpace(test.Certificate))
            return new Refusal("Write the certificate's name or number.");
        var band = BandOf(gear, test.Subject, rated);
        if (!band.Ok)
            return band.Refusal!;
        if (oneLeg is not { } of || of.Kilograms <= 0)
            return new Refusal("Its rated load is not known: what it would be tested to is not either.");
        var factor = Figures(load.Kilograms, of.Kilograms);
        if (load.Kilograms < band.Value.Least * of.Kilograms || load.Kilograms > band.Value.Most * of.Kilograms)
            return new Refusal(
                $"{load} is {QuantityFormat.Number(factor)} times {band.Value.Of}, {QuantityFormat.Rounded(of, load.Unit)}; the band is {band.Value}."
            );
        var record = new ProofTested(
            Code.Of(test.Subject),
            load.ToString(),
            factor,
            on,
            test.MadeBy.Trim(),
            test.Instrument.Trim(),
            until,
            test.Certificate.Trim(),
            test.Passed
        );
        return test.Passed
            ? new PieceOutcome(state, record)
            : Cage.On(
                state,
                new NewHold(HoldCause.VerdictRemove, $"Proof test failed at {load}, {on:yyyy-MM-dd}: to be condemned"),
                record
            );
    }

    private static decimal Figures(decimal load, decimal of) => QuantityFormat.Round(load / of, 3);

    private static ProofBand One(decimal factor, string of) => new(factor, factor * Over, of);
}
