using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>A leg above a beam.</summary>
/// <param name="Tension">The pull in it, in kilograms; null where it would have to push.</param>
/// <param name="Pieces">The sling first, then from the top down.</param>
public sealed record TopLeg(decimal? Tension, IReadOnlyList<PieceOnLift> Pieces);

/// <summary>What a beam comes to.</summary>
/// <param name="Piece">What is asked of it and what it may carry: its own weight is not counted in a beam's rating.</param>
/// <param name="Compression">What presses it together, in kilograms; null but for a spreader.</param>
/// <param name="Top">The legs above it: of a spreader the one at its + end first.</param>
public sealed record BeamOnLift(PieceOnLift Piece, decimal? Compression, IReadOnlyList<TopLeg> Top);

/// <summary>
/// Works out a load below a beam: the pull of each drop by the lever rule, the legs above, the tilt, and what the beam
/// itself carries (ASME B30.20; statics).
/// </summary>
internal sealed class BeamJudge
{
    /// <summary>How far a load may hang off its one drop, or off the middle, in millimetres.</summary>
    private const decimal Plumb = 10;

    private const decimal PlumbShareOfSpan = 0.005m;

    /// <summary>Off the middle by more than this share a load is asked about, and by more than that rigged again.</summary>
    private const decimal AskOff = 0.02m,
        MostOff = 0.10m;

    /// <summary>The same for an equaliser, which shares alike whatever hangs where.</summary>
    private const decimal AskOffEqualiser = 0.01m;

    /// <summary>How far a drop may hang beside its top pick, as a share of the span.</summary>
    private const decimal MostBesidePick = 0.02m;

    private readonly Lift _lift;
    private readonly UnderBeam _under;
    private readonly List<Remark> _remarks;
    private readonly decimal _load;
    private readonly decimal _centre;

    public BeamJudge(Lift lift, UnderBeam under, List<Remark> remarks)
    {
        (_lift, _under, _remarks) = (lift, under, remarks);
        _load = lift.Load.Weight.Kilograms;
        _centre = under.Centre?.Millimetres ?? 0;
    }

    private LiftingBeam Beam => _under.Beam;

    private decimal Span => Beam.Span.Millimetres;

    /// <summary>What hangs below the beam's own weight.</summary>
    private decimal Rigging => _lift.Rigging?.Kilograms ?? 0;

    private decimal Total => _load + _lift.BeamWeight + Rigging;

    private decimal Off => Math.Abs(_centre);

    /// <summary>The drops, in the order they were given.</summary>
    public List<LegOnLift> Drops()
    {
        Given();
        Standing();
        var pulls = Pulls();
        return
        [
            .. _under.Drops.Select(
                (drop, i) =>
                    new LegOnLift(
                        i + 1,
                        90,
                        pulls?[i],
                        pulls is null ? null : 0,
                        LiftJudge.LegPieces(_lift, drop.Rigging, pulls?[i], new(1, new(90), 1, Banded: false))
                    )
            ),
        ];
    }

    /// <summary>The beam and what it hangs by.</summary>
    public BeamOnLift Of()
    {
        var piece = new PieceJudgement("beam", _load + Rigging);
        piece.Rated(Beam.RatedLoad, "the beam's rated load is not known: no rated load, no use");
        if (Beam.Kind == BeamKind.Spreader)
            return Spreader(piece.Done());
        OffMiddle();
        return new(piece.Done(), null, Beam.Top is { } top ? [Top(top, Total, new(1, new(90), 1))] : []);
    }

    private void Given()
    {
        if (_under.Centre is null)
            Say(
                LiftOutcome.Ask,
                "Where the load's centre of gravity lies along the beam is not said: taken under its middle."
            );
        if (Beam.OwnWeight is null)
            Say(
                LiftOutcome.Ask,
                "What the beam weighs is not known: what hangs above sees more than is worked out here."
            );
        DropStatics.TurnsOver(_under.Drops, _centre, _remarks);
        Say(LiftOutcome.Ok, "A beam is used as its plate and its maker say: at its marked points, in its marked span.");
    }

    private void Standing()
    {
        if (_under.Drops.Count > 1)
            return;
        LiftJudge.OneLeg(_lift, _under.Drops[0].Rigging, _remarks);
        var slack = Span > 0 ? Math.Min(Plumb, PlumbShareOfSpan * Span) : Plumb;
        if (Math.Abs(_centre - _under.Drops[0].At.Millimetres) > slack)
            Say(
                LiftOutcome.NotPermitted,
                $"The one drop hangs more than {Millimetres(slack)} off the centre of gravity: the load swings. Rig it over the centre."
            );
    }

    /// <summary>The pull of each drop; null where one would have to push.</summary>
    private decimal[]? Pulls()
    {
        if (_under.Drops.Count == 1)
            return [_load];
        if (Beam.Kind != BeamKind.Equaliser)
            return DropStatics.Pulls(_load, _under.Drops, _centre, "the drops", _remarks);
        var (first, second) = (_under.Drops[0].At.Millimetres, _under.Drops[1].At.Millimetres);
        var (low, high) = (Math.Min(first, second), Math.Max(first, second));
        if (low >= 0 || high <= 0)
        {
            Say(LiftOutcome.NotPermitted, "Both drops hang on one side of the pivot: the equaliser turns over.");
            return null;
        }

        var atLow = _load * high / (high - low);
        return first == low ? [atLow, _load - atLow] : [_load - atLow, atLow];
    }

    /// <summary>A beam hung by its middle tilts until the load's centre of gravity lies under it.</summary>
    private void OffMiddle()
    {
        if (_under.Drops.Count == 1)
        {
            if (Off > Plumb || Math.Abs(_under.Drops[0].At.Millimetres) > Plumb)
                Say(
                    LiftOutcome.NotPermitted,
                    $"One drop hangs within {Millimetres(Plumb)} of the beam's middle, and the load under it: here the beam tips."
                );
            return;
        }

        var apart = Math.Abs(_under.Drops[0].At.Millimetres - _under.Drops[1].At.Millimetres);
        Away(Off, apart, Beam.Kind == BeamKind.Equaliser ? AskOffEqualiser : AskOff, "the drops' distance");
    }

    private BeamOnLift Spreader(PieceOnLift piece)
    {
        var angle = Beam.TopAngle!.Value;
        Away(Off, Span, AskOff, "the span");
        Picks();
        TopAngle(angle);
        var tangent = Math.Tan((double)angle.Degrees * Math.PI / 180);
        var tilt =
            Math.Atan(2 * (double)_load * (double)Off / ((double)Total * (double)Span * tangent)) * 180 / Math.PI;
        LiftJudge.Tilts("The beam tilts", tilt, "rig again with the hook over the common centre of gravity", _remarks);
        var stand = new LegStand(2, angle, 2);
        var top = new List<TopLeg>();
        foreach (var end in new[] { 1, -1 })
            top.Add(
                Top(Beam.Top!, TopPull(end) is { } part ? Figures.Ratio(part, HitchFactors.Sine(angle)) : null, stand)
            );
        if (top.Any(t => t.Tension is null))
            Say(LiftOutcome.NotPermitted, "A leg above the spreader would have to push: the load hangs outside it.");

        // The larger part over the tangent: what lies along the leg, laid along the beam.
        var compression = top.Max(t => t.Tension) * HitchFactors.Cosine(angle);
        if (compression is { } pressed)
            Say(
                LiftOutcome.Ok,
                $"The spreader is pressed together with {QuantityFormat.Number(QuantityFormat.Round(pressed, 2))} kg."
            );
        return new(piece, compression, top);
    }

    /// <summary>What one end of a spreader hangs by, upright; null where it would have to push.</summary>
    /// <param name="end">1 at the + end, -1 at the other.</param>
    private decimal? TopPull(int end)
    {
        if (Off > Span)
            return null;
        var part = (Total / 2) + (_load * end * _centre / Span);
        return part < 0 ? null : part;
    }

    private TopLeg Top(LegRigging top, decimal? pull, LegStand stand) =>
        new(pull, LiftJudge.LegPieces(_lift, top, pull, stand));

    private void TopAngle(Angle angle)
    {
        var said = $"The legs above the spreader stand {angle} from the horizontal";
        if (angle < Beam.LeastTopAngle || angle.Degrees < HitchFactors.LeastAngle)
            Say(
                LiftOutcome.NotPermitted,
                $"{said}, under {Math.Max(Beam.LeastTopAngle.Degrees, HitchFactors.LeastAngle):0.##} deg: longer slings above it."
            );
        else if (HitchFactors.CautionBelow(2, _lift.Books) is var watched && angle.Degrees < watched)
            Say(LiftOutcome.Caution, $"{said}, under {watched:0}: the pull rises fast. Longer slings above it.");
    }

    /// <summary>A spreader is made to be pressed, not bent: drops hang under its top picks.</summary>
    private void Picks()
    {
        var (places, half, most) = (
            _under.Drops.Select(d => d.At.Millimetres).Order().ToList(),
            Span / 2,
            MostBesidePick * Span
        );
        if (places[^1] - half > most || -half - places[0] > most)
            Say(
                LiftOutcome.NotPermitted,
                "A drop hangs outside the top pick over it: the spreader is bent, which it is not made for."
            );
        if (places.Count == 1)
            Say(LiftOutcome.Ask, "One drop bends the spreader between its picks: ask its maker.");
        else if (half - places[1] > most || places[0] + half > most)
            Say(
                LiftOutcome.Ask,
                "A drop hangs inside the top pick over it: the spreader is bent there, ask its maker."
            );
    }

    private void Away(decimal off, decimal of, decimal asked, string what)
    {
        var said = $"The centre of gravity lies {Millimetres(off)} off the beam's middle";
        if (off > MostOff * of)
            Say(LiftOutcome.NotPermitted, $"{said}, over {MostOff * 100:0} % of {what}: hang it under the middle.");
        else if (off > asked * of)
            Say(LiftOutcome.Ask, $"{said}, over {asked * 100:0} % of {what}: ask a qualified person.");
    }

    private static string Millimetres(decimal length) => $"{QuantityFormat.Number(QuantityFormat.Round(length, 1))} mm";

    private void Say(LiftOutcome outcome, string text) => _remarks.Add(new(outcome, text));
}
