using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>What readings are taken with.</summary>
/// <param name="Name">Its identity, as engraved on it.</param>
/// <param name="Uncertainty">Its expanded uncertainty, from its calibration.</param>
/// <param name="CalibrationDue">The last day its calibration counts.</param>
public sealed record Instrument(string Name, Length Uncertainty, DateOnly CalibrationDue)
{
    /// <summary>Whether its calibration counts on a day; on its last day it does.</summary>
    public bool IsInDateOn(DateOnly day) => day <= CalibrationDue;
}
