using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Markings;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;

namespace Keralith.Core.Register;

/// <summary>Which measure on which part a baseline belongs to.</summary>
/// <param name="Part">The part's path.</param>
/// <param name="Criterion">The criterion's id.</param>
public readonly record struct BaselineKey(string Part, string Criterion);

/// <summary>What is entered of a piece: who it is, what its tag says, its sizes, its figures when new, where it hangs.</summary>
public sealed record PieceEntry
{
    public required Mark Mark { get; init; }

    public required GearPiece Gear { get; init; }

    public string? Serial { get; init; }

    public string? Maker { get; init; }

    public string? Model { get; init; }

    /// <summary>As marked, with its unit; null when not known: the piece can't be used then.</summary>
    public Mass? RatedLoad { get; init; }

    /// <summary>As marked; null when the marking names none.</summary>
    public decimal? DesignFactor { get; init; }

    /// <summary>The hitch and angle the marking gives the rated load for, in its own words.</summary>
    public string? RatedFor { get; init; }

    /// <summary>Codes of the entries the marking carries.</summary>
    public required IReadOnlyList<string> TagEntries { get; init; }

    /// <summary>What it meets where it works.</summary>
    public Surroundings Surroundings { get; init; } = Surroundings.Ordinary;

    public required ServiceClass ServiceClass { get; init; }

    public DateOnly? InServiceSince { get; init; }

    public required int Store { get; init; }

    public required string Peg { get; init; }

    public required IReadOnlyDictionary<BaselineKey, BaselineFigure> Baselines { get; init; }

    /// <summary>Why a person may not set these baselines; null when they may. Only a qualified person accepts today's figure as one.</summary>
    public static string? RefusalOf(IEnumerable<BaselineFigure> set, Role role) =>
        set.Any(b => b.Basis == BaselineBasis.Provisional) && !role.May(Right.AcceptProvisional) ? "Only a qualified person accepts a provisional figure." : null;
}
