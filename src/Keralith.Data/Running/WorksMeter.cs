using System.Diagnostics.Metrics;

namespace Keralith.Data;

/// <summary>What is counted while the application runs, for who watches it.</summary>
public static class WorksMeter
{
    /// <summary>The name everything is counted under.</summary>
    public const string Name = "Keralith";

    private static readonly Meter Meter = new(Name);

    /// <summary>Inspections signed.</summary>
    public static Counter<long> Signings { get; } = Meter.CreateCounter<long>("keralith.signings");

    /// <summary>Cases judged, for programs and on the pages.</summary>
    public static Counter<long> Judgements { get; } = Meter.CreateCounter<long>("keralith.judgements");
}
