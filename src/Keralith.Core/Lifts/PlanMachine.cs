using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>Reads what a plan hangs from and passes under: beam, crane and chart, headroom and way.</summary>
/// <param name="fields">What was typed.</param>
/// <param name="known">What the site asks of every plan.</param>
internal sealed class PlanMachine(PlanFields fields, LiftKnown known)
{
    /// <summary>Lines of deductions a plan may have.</summary>
    public const int MostDeductions = 4;

    /// <summary>The drops below a beam, each end of it, and how the legs above stand.</summary>
    public StandBeam? Beam()
    {
        var kind = fields.Choice<BeamKind>("beamKind") ?? BeamKind.Spreader;
        var isSpreader = kind == BeamKind.Spreader;
        var span = isSpreader ? fields.RequiredLength("span") : Length.FromMillimetres(0);
        var angle = isSpreader ? fields.Angle("topAngle", 1, 89) ?? new(60) : (Angle?)null;
        var count = (int)(fields.Number("drops", 1, 2) ?? 2);
        var drops = new List<PlannedDrop>();
        for (var n = 1; n <= count; n++)
        {
            var at = fields.Length($"drop-{n}-at", positive: false)
                ?? (isSpreader && span is { } wide ? Under(wide, count == 1 ? 0 : (2 * n) - 3) : null);
            if (at is null && fields.Raw($"drop-{n}-at") is null && !isSpreader)
                fields.Refuse($"drop-{n}-at", "where it hangs along the beam is wanted, from its middle");
            if (at is { } place)
                drops.Add(new(place, fields.Length($"drop-{n}-above", positive: false)));
        }

        if (drops.Count == 2 && drops[0].At.Millimetres == drops[1].At.Millimetres)
            fields.Refuse("drop-2-at", "both drops hang at one place");
        if (kind == BeamKind.Equaliser && count == 1)
            fields.Refuse("drops", "an equaliser has two drops");
        var centre = fields.Length("along", positive: false);
        var least = isSpreader ? fields.Angle("leastTopAngle", 1, 89) : null;
        return span is { } s && drops.Count == count
            ? new(kind, s, drops)
            {
                TopAngle = angle,
                LeastTopAngle = least ?? LiftingBeam.UsualLeastTopAngle,
                Centre = centre,
            }
            : null;
    }

    /// <summary>The hooks of two cranes over the load's two picks, and the second crane.</summary>
    public StandCranes? Cranes()
    {
        if (fields.Raw("machine") != "crane")
            fields.Refuse("machine", "the first crane and its chart are wanted");
        var second = Crane(LiftPlanReader.SecondCrane);
        var hooks = new List<PlannedDrop>();
        for (var n = 1; n <= 2; n++)
        {
            if (fields.Length($"hook-{n}-at", positive: false) is { } at)
                hooks.Add(new(at, fields.Length($"hook-{n}-above", positive: false)));
            else if (fields.Raw($"hook-{n}-at") is null)
                fields.Refuse($"hook-{n}-at", "where it stands along the load is wanted");
        }

        if (hooks.Count == 2 && hooks[0].At.Millimetres == hooks[1].At.Millimetres)
            fields.Refuse("hook-2-at", "both hooks stand at one place");
        return second is not null && hooks.Count == 2
            ? new(hooks, fields.Length("hooks-along", positive: false), second)
            : null;
    }

    /// <summary>The crane, where the plan hangs from one.</summary>
    public Crane? Crane() => fields.Raw("machine") == "crane" ? Crane(LiftPlanReader.FirstCrane) : null;

    /// <summary>A crane by its chart; the second reads the first's chart where it has none of its own.</summary>
    /// <param name="called">What its fields begin with.</param>
    private Crane? Crane(string called)
    {
        var boom = fields.RequiredLength($"{called}-boom");
        var configuration = fields.Text($"{called}-configuration");
        if (configuration is null)
            fields.Refuse($"{called}-configuration", "how the crane stands is wanted, as its chart names it");
        var radii = new List<Length>();
        foreach (var name in new[] { "pick", "way", "land" })
        {
            if (fields.Length($"{called}-{name}") is { } radius)
                radii.Add(radius);
        }

        if (boom is { } length && fields.Angle($"{called}-angle", 0, 90) is { } angle)
            radii.Add(
                CraneChart.RadiusAt(
                    length,
                    angle,
                    fields.Length($"{called}-offset", positive: false) ?? Length.FromMillimetres(0)
                )
            );
        if (radii.Count == 0)
            fields.Refuse($"{called}-pick", "the radius at pick-up is wanted, along the way and at landing too");
        var chart = ChartText.Read(fields.Raw($"{called}-chart") ?? fields.Raw("crane-chart"));
        if (!chart.Ok)
            fields.Refuse($"{called}-chart", chart.Fault!);
        var deductions = new List<Deduction>();
        var deduct = called == LiftPlanReader.FirstCrane ? "deduct" : $"{called}-deduct";
        for (var n = 1; n <= MostDeductions; n++)
        {
            if (fields.Mass($"{deduct}-{n}-weight", orNothing: true) is { } weight)
                deductions.Add(new(fields.Text($"{deduct}-{n}-what") ?? "deduction", weight));
        }

        // A site's policy: a plan may only be stricter.
        var share = fields.Number($"{called}-critical", 1, known.CriticalShare * 100) / 100;
        return chart.Ok && boom is { } b && configuration is not null && radii.Count > 0
            ? new(chart.Value, configuration, b, radii)
            {
                Deductions = deductions,
                CriticalShare = share ?? known.CriticalShare,
            }
            : null;
    }

    /// <summary>The room above and the way, where somebody asks for it.</summary>
    public Headroom? Headroom()
    {
        if (fields.Raw("room") is null)
            return null;
        var load = fields.RequiredLength("room-load");
        var path = Path();
        return load is { } high
            ? new(high)
            {
                Highest = fields.Length("room-hook"),
                Travel = fields.Length("room-travel"),
                Above = FromZero("room-above"),
                Legs = fields.Length("room-legs"),
                Margin = FromZero("room-margin") ?? Lifts.Headroom.UsualMargin,
                Path = path,
            }
            : null;
    }

    private List<PathPoint> Path()
    {
        var points = new List<PathPoint>();
        for (var n = 1; n <= PathPoint.Most; n++)
        {
            var (along, clear) = (FromZero($"way-{n}-along"), FromZero($"way-{n}-clear"));
            if (clear is { } high)
                points.Add(new(along ?? Length.FromMillimetres(0), high, fields.Text($"way-{n}-note") ?? string.Empty));
            else if (along is not null && fields.Raw($"way-{n}-clear") is null)
                fields.Refuse($"way-{n}-clear", "how high it is there is wanted; 0 where it is the ground");
        }

        return points;
    }

    private Length? FromZero(string name)
    {
        var length = fields.Length(name, positive: false);
        if (length?.Millimetres < 0)
            fields.Refuse(name, "a length of 0 or over");
        return length;
    }

    /// <summary>Straight under a top pick: half the span to one end or the other, or the middle.</summary>
    private static Length Under(Length span, int end) => span * (0.5m * end);
}
