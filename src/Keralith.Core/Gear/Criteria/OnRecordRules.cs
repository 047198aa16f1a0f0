using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>The maker's hand pull: more is needed where the hoist is overloaded or its brake fails.</summary>
public sealed record HandPullOnRecord : LimitRule
{
    public override bool IsOnRecord => true;

    public override string Words => "more than the maker's figure removes";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.Force("handPullLimit") is { } most
            ? new Figure(most.Newtons, null, Comparator.Above)
            : new Missing("the maker's hand pull");
}

/// <summary>A torque as marked, held where it is off by more than a share of it either way.</summary>
/// <param name="Share">Such as 0.05.</param>
public sealed record TorqueOnRecord(decimal Share) : LimitRule
{
    public override bool IsOnRecord => true;

    public override string Words => $"more than {Percent(Share)} off the mark, either way, holds";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.Moment("torque") is { } mark
            ? new Within(
                mark.NewtonMetres * (1 - Share),
                mark.NewtonMetres * (1 + Share),
                $"{mark} as marked, {Percent(Share)} either way"
            )
            : new Missing("the torque marked on it");
}

/// <summary>The least thread engaged, in diameters of the thread.</summary>
/// <param name="Diameters">Over 0.</param>
public sealed record ThreadEngaged(decimal Diameters) : LimitRule
{
    public override bool IsOnRecord => true;

    public override string Words =>
        $"less than {QuantityFormat.Number(Diameters)} {(Diameters == 1 ? "diameter" : "diameters")} of thread removes";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.Length("threadSize") is { } thread
            ? new Figure(thread.Millimetres * Diameters, null, Comparator.Below)
            : new Missing("the size of the thread");
}
