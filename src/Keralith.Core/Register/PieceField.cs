using Keralith.Core.Gear;
using Keralith.Core.People;

namespace Keralith.Core.Register;

/// <summary>How a field of a piece is typed and sent.</summary>
public enum FieldForm
{
    /// <summary>A line of text, a quantity or a choice: text everywhere.</summary>
    Text,

    /// <summary>A day.</summary>
    Day,

    /// <summary>A number, and a number in documents.</summary>
    Number,

    /// <summary>A line each.</summary>
    Lines,

    /// <summary>Sent by a name or an object of its own: the store, the family, sizes of fit.</summary>
    Apart,
}

/// <summary>
/// A field of a piece. Form, file, document, record and history take it from here: one row of <see cref="PieceFields"/>.
/// </summary>
/// <param name="Name">Its name in forms, documents and the ledger; a file's column by <see cref="RegisterColumns.Column"/>.</param>
/// <param name="Label">What it is, in words, within a sentence.</param>
public sealed record PieceField(string Name, string Label)
{
    public FieldForm Form { get; init; }

    /// <summary>Whether it is one piece's alone: no start for another like it.</summary>
    public bool IsOwn { get; init; }

    /// <summary>Whether its present value follows from records of their own, and not from the last entry of the piece.</summary>
    public bool IsApart { get; init; }

    /// <summary>Whether it is kept among the details, and so needs no column of the database.</summary>
    public bool IsDetail { get; private init; }

    /// <summary>Whether a form asks it of a family; filled in, it shows of any.</summary>
    public Func<GearFamily, bool> IsAskedOf { get; init; } = _ => true;

    /// <summary>Its value as it is typed; empty: none.</summary>
    public required Func<PieceEntry, string> Write { get; init; }

    /// <summary>What was typed, put into the entry; faults are told to the reader.</summary>
    internal Func<FieldReader, PieceEntry, PieceEntry> Read { get; init; } = (_, e) => e;

    /// <summary>The same for a piece's details alone.</summary>
    internal Func<FieldReader, PieceDetails, PieceDetails> ReadDetail { get; private init; } = (_, d) => d;

    /// <summary>What a change from one entry to the other means, and the right it takes.</summary>
    public required Func<PieceEntry, PieceEntry, (ChangeMeaning Means, Right Needs)> Change { get; init; }

    /// <summary>A field kept among the details.</summary>
    internal static PieceField Detail(
        string name,
        string label,
        Func<PieceEntry, PieceEntry, (ChangeMeaning Means, Right Needs)> change,
        Func<PieceDetails, string?> write,
        Func<FieldReader, PieceDetails, PieceDetails> read
    ) =>
        new(name, label)
        {
            IsDetail = true,
            Change = change,
            Write = e => write(e.Details) ?? string.Empty,
            Read = (r, e) => e with { Details = read(r, e.Details) },
            ReadDetail = read,
        };
}
