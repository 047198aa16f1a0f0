using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>A figure as entered, ready to compare: millimetres, degrees or a count.</summary>
/// <param name="Value">The figure.</param>
internal readonly record struct Reading(decimal Value)
{
    public Length? Baseline { get; init; }

    /// <summary>Whether the baseline is today's figure of gear taken over.</summary>
    public bool Provisional { get; init; }

    /// <summary>Of the instrument, in the unit of the value; 0 when not stated.</summary>
    public decimal Uncertainty { get; init; }

    /// <summary>What was read last at the same place; null where nothing is on record.</summary>
    public LastReading? Last { get; init; }

    /// <summary>The unit lengths are written back in; null for anything else.</summary>
    public LengthUnit? Unit { get; init; }

    /// <summary>The unit forces are written back in; null for anything else.</summary>
    public ForceUnit? ForceUnit { get; init; }

    /// <summary>The unit moments are written back in; null for anything else.</summary>
    public MomentUnit? MomentUnit { get; init; }

    public bool IsAngle { get; init; }

    public static Reading From(Measured measured) =>
        new(measured.Value.Millimetres)
        {
            Baseline = measured.Baseline,
            Provisional = measured.Baseline is not null && measured.Basis == BaselineBasis.Provisional,
            Uncertainty = measured.Uncertainty.Millimetres,
            Unit = measured.Baseline?.Unit ?? measured.Value.Unit,
        };

    public static Reading From(MeasuredAngle angle) =>
        new(angle.Value.Degrees) { Uncertainty = angle.Uncertainty.Degrees, IsAngle = true };

    public static Reading From(MeasuredForce force) =>
        new(force.Value.Newtons) { Uncertainty = force.Uncertainty.Newtons, ForceUnit = force.Value.Unit };

    public static Reading From(MeasuredMoment moment) =>
        new(moment.Value.NewtonMetres)
        {
            Uncertainty = moment.Uncertainty.NewtonMetres,
            MomentUnit = moment.Value.Unit,
        };

    /// <summary>A figure of this kind in words, with its unit, rounded for reading.</summary>
    public string Words(decimal figure) =>
        Unit is { } unit ? QuantityFormat.Rounded(Length.FromMillimetres(figure).In(unit))
        : ForceUnit is { } force ? QuantityFormat.Rounded(figure, force)
        : MomentUnit is { } moment ? QuantityFormat.Rounded(figure, moment)
        : IsAngle ? new Angle(figure).ToString()
        : QuantityFormat.Number(figure);
}
