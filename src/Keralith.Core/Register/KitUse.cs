using Keralith.Core.Custody;
using Keralith.Core.Schedule;

namespace Keralith.Core.Register;

/// <summary>A registered member of a kit, as it stands.</summary>
/// <param name="Mark">Its mark.</param>
/// <param name="State">Its state.</param>
/// <param name="Due">When its inspections run out.</param>
/// <param name="CalibrationDue">When its calibration runs out; null where it has none to keep.</param>
public sealed record MemberStanding(string Mark, PieceState State, DueDates Due, DateOnly? CalibrationDue)
{
    /// <summary>How long its proof test holds good.</summary>
    public ProofDue Proof { get; init; } = ProofDue.None;

    /// <summary>The last day its maker lets it be used; null where none is set.</summary>
    public DateOnly? DiscardOn { get; init; }

    /// <summary>Whether it is kept as evidence.</summary>
    public bool IsLocked { get; init; }
}

/// <summary>A kit is usable only while every member that bears is.</summary>
public static class KitUse
{
    /// <summary>What its members have against a kit, in words; empty when nothing.</summary>
    /// <param name="roster">The kit's roster.</param>
    /// <param name="registered">Those of its members that are registered, as they stand.</param>
    /// <param name="today">The site's day.</param>
    public static IReadOnlyList<string> Against(
        IEnumerable<KitMember> roster,
        IReadOnlyCollection<MemberStanding> registered,
        DateOnly today
    ) =>
        [
            .. from member in roster
            where member.Bears != KitShare.Spare && member.Mark is not null
            let mark = member.Mark!.Value.Text
            let why = registered.FirstOrDefault(r => r.Mark == mark) is { } standing
                ? Why(standing, today)
                : "nobody has registered it"
            where why is not null
            select $"Its member {member.Name} ({mark}) stops it: {why}.",
        ];

    private static string? Why(MemberStanding member, DateOnly today) =>
        member.State switch
        {
            PieceState.InService when member.IsLocked => "it is kept as evidence",
            PieceState.InService when member.Due.Periodic is not { } due || due < today =>
                "its periodic inspection is overdue",
            PieceState.InService when member.Due.Frequent < today => "its frequent inspection is overdue",
            PieceState.InService when member.CalibrationDue < today => "its calibration is out of date",
            PieceState.InService when member.DiscardOn < today => "it is past its discard date",
            PieceState.InService when member.Proof.Lacks => "no proof test of it is on record, and one is asked",
            PieceState.InService when member.Proof.Until < today => "its proof test ran out",
            PieceState.InService => null,
            PieceState.New => "it is not inspected yet",
            PieceState.Held => "it is on hold",
            PieceState.Missing => "it is missing",
            PieceState.AtRepair => "it is away at repair",
            PieceState.AtTest => "it is away on a test bed",
            PieceState.Condemned => "it is condemned",
            PieceState.Destroyed => "it is destroyed",
        };
}
