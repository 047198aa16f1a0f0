using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>
/// The screw of a turnbuckle that brings a leg to length. It is never screwed out beyond full thread engagement, nor in
/// further than its body is open.
/// </summary>
/// <param name="Thread">Nominal diameter of the thread.</param>
/// <param name="Pitch">Of one screw; where nobody states it, the coarse pitch of its thread.</param>
public sealed record Screw(Length Thread, Length Pitch)
{
    /// <summary>Whether the pitch is that of a coarse thread, for nobody has stated it.</summary>
    public bool PitchIsTaken { get; init; }

    /// <summary>Thread engaged at the worse end, as it stands; null where nobody has measured it.</summary>
    public Length? Engaged { get; init; }

    /// <summary>Between the ends of the screws in the body, as it stands; null where nobody has measured it.</summary>
    public Length? Open { get; init; }

    /// <summary>The screw of a turnbuckle as it is registered and rigged.</summary>
    /// <returns>Null where its thread is not on record, or its pitch neither stated nor that of a coarse thread.</returns>
    public static Screw? Of(Length? thread, RigFacts facts)
    {
        if (thread is not { } size || (facts.ScrewPitch ?? CoarsePitch(size)) is not { } pitch)
            return null;
        return new(size, pitch)
        {
            PitchIsTaken = facts.ScrewPitch is null,
            Engaged = facts.ScrewEngaged,
            Open = facts.ScrewOpen,
        };
    }

    /// <summary>Turns a leg shorter or longer as far as the thread allows.</summary>
    /// <param name="by">In millimetres: over 0 takes up, under 0 lets out.</param>
    /// <returns>What is turned; nothing where how far it may go is not known.</returns>
    public ScrewTurn Turn(double by)
    {
        // One screw may do all of it, as where the other end is a swivel: the whole is counted against it.
        var room = by > 0 ? Open?.Millimetres : Engaged?.Millimetres - Thread.Millimetres;
        if (Math.Abs(by) < (double)Pitch.Millimetres / 4)
            return new(0, 0, null);
        if (room is not { } most)
            return new(
                0,
                0,
                by > 0
                    ? "measure how far its body is open between the screws' ends, then it is told how far to turn"
                    : "measure the thread engaged at its worse end, then it is told how far to turn"
            );
        var may = Math.Min(Math.Abs(by), (double)Math.Max(0, most)) * Math.Sign(by);
        var stops =
            Math.Abs(may) < Math.Abs(by)
                ? by > 0
                    ? "its body is open no further"
                    : $"less than one diameter of thread, {Thread}, would stay engaged"
                : null;
        return new(may, may / (double)Pitch.Millimetres, stops);
    }

    /// <summary>The coarse pitch of a thread: ASME B1.1 (UNC) in inches, ISO 261 in millimetres.</summary>
    /// <returns>Null for a size that has none.</returns>
    public static Length? CoarsePitch(Length thread)
    {
        foreach (var (inches, perInch) in Unified)
        {
            if (inches * 25.4m == thread.Millimetres)
                return Length.FromMillimetres(25.4m / perInch);
        }

        foreach (var (size, pitch) in Metric)
        {
            if (size == thread.Millimetres)
                return Length.FromMillimetres(pitch);
        }

        return null;
    }

    private static readonly (decimal Inches, decimal PerInch)[] Unified =
    [
        (0.25m, 20),
        (0.3125m, 18),
        (0.375m, 16),
        (0.4375m, 14),
        (0.5m, 13),
        (0.5625m, 12),
        (0.625m, 11),
        (0.75m, 10),
        (0.875m, 9),
        (1, 8),
        (1.125m, 7),
        (1.25m, 7),
        (1.375m, 6),
        (1.5m, 6),
        (1.75m, 5),
        (2, 4.5m),
        (2.25m, 4.5m),
        (2.5m, 4),
        (2.75m, 4),
    ];

    private static readonly (decimal Size, decimal Pitch)[] Metric =
    [
        (6, 1),
        (8, 1.25m),
        (10, 1.5m),
        (12, 1.75m),
        (14, 2),
        (16, 2),
        (18, 2.5m),
        (20, 2.5m),
        (22, 2.5m),
        (24, 3),
        (27, 3),
        (30, 3.5m),
        (33, 3.5m),
        (36, 4),
        (39, 4),
        (42, 4.5m),
        (45, 4.5m),
        (48, 5),
        (52, 5),
        (56, 5.5m),
        (60, 5.5m),
        (64, 6),
    ];
}

/// <summary>How far a turnbuckle is turned.</summary>
/// <param name="By">In millimetres: over 0 takes up, under 0 lets out.</param>
/// <param name="Turns">Of one screw; a body that draws two screws at once is turned half as often.</param>
/// <param name="Stops">Why it goes no further; null where it does all that is asked.</param>
public readonly record struct ScrewTurn(double By, double Turns, string? Stops)
{
    /// <summary>In words.</summary>
    public override string ToString()
    {
        var turned =
            By == 0
                ? null
                : FormattableString.Invariant(
                    $"turnbuckle {(By > 0 ? "taken up" : "let out")} {Math.Abs(Turns):0.0} turns of one screw, {Math.Abs(Turns) / 2:0.0} of a body with two"
                );
        return string.Join("; ", new[] { turned, Stops }.Where(s => s is not null));
    }
}
