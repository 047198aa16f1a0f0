using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Signing;

/// <summary>A signed record that readings are held against.</summary>
/// <param name="Case">What was answered.</param>
/// <param name="Day">The day it was made.</param>
/// <param name="CountsFrom">From when it counts: figures from before a part was replaced are not this part's.</param>
/// <param name="By">Who made it.</param>
/// <param name="Instruments">What its readings were taken with, as they were written down.</param>
public sealed record EarlierRecord(
    Case Case,
    DateOnly Day,
    DateTimeOffset CountsFrom,
    Guid By,
    IReadOnlyList<string> Instruments
);

/// <summary>
/// What each measure read last. A reading better than the one before is doubtful until a second one, by another
/// instrument or another person, says the same: until then the one before counts.
/// </summary>
public static class LastReadings
{
    /// <summary>The last readings a draft is held against.</summary>
    /// <param name="records">The piece's signed records that count, in any order.</param>
    /// <param name="replaced">When each part was last replaced: what was read before is of another part.</param>
    /// <param name="answers">The draft's answers: whose hand, and by what instrument.</param>
    /// <param name="inspector">Whose hand it is where an answer does not say.</param>
    public static IReadOnlyDictionary<(string Part, string Criterion), LastReading> Of(
        IEnumerable<EarlierRecord> records,
        IReadOnlyDictionary<string, DateTimeOffset> replaced,
        IEnumerable<DraftAnswer> answers,
        Guid inspector
    )
    {
        var earlier = records.OrderBy(r => r.CountsFrom).ToList();
        var last = new Dictionary<(string, string), LastReading>();
        if (earlier.Count == 0)
            return last;
        foreach (var answer in answers.Where(a => a.IsMeasured))
        {
            var from = replaced.GetValueOrDefault(answer.Part);
            var read = Of(
                earlier.Where(r => r.CountsFrom >= from),
                answer.Part,
                answer.Criterion,
                answer.Hand ?? inspector,
                answer.Instrument?.Name
            );
            if (read is not null)
                last[(answer.Part, answer.Criterion)] = read;
        }

        return last;
    }

    private static LastReading? Of(
        IEnumerable<EarlierRecord> records,
        string part,
        string criterion,
        Guid by,
        string? instrument
    )
    {
        LastReading? accepted = null;
        (LastReading Reading, EarlierRecord Record)? doubtful = null;
        foreach (var record in records)
        {
            if (Worst(record, part, criterion) is not var (reading, grows))
                continue;
            var confirms =
                doubtful is { } first
                && IsAnother(first.Record, record.By, record.Instruments)
                && !first.Reading.IsBeaten(reading.Value.Millimetres, reading.Uncertainty.Millimetres, grows);
            if (
                accepted is { } before
                && !confirms
                && before.IsBeaten(reading.Value.Millimetres, reading.Uncertainty.Millimetres, grows)
            )
                doubtful = (reading, record);
            else
                (accepted, doubtful) = (reading, null);
        }

        return doubtful is { } second && IsAnother(second.Record, by, instrument is null ? [] : [instrument])
            ? second.Reading
            : accepted;
    }

    /// <summary>Whether a record was made by another person than somebody, or read with another instrument.</summary>
    private static bool IsAnother(EarlierRecord record, Guid by, IReadOnlyList<string> instruments) =>
        record.By != by
        || (
            instruments.Count > 0
            && record.Instruments.Count > 0
            && instruments.All(i => record.Instruments.All(r => NameOf(r) != NameOf(i)))
        );

    /// <summary>An instrument's own name, without what is written beside it on record.</summary>
    private static string NameOf(string written) => written.Split(", +/-")[0];

    /// <summary>The worst a record read at a place, and whether larger is worse there; null where it read nothing.</summary>
    private static (LastReading Reading, bool Grows)? Worst(EarlierRecord record, string part, string criterion)
    {
        var read = record
            .Case.Answers.Where(a => a.Part == part && a.Criterion.Id == criterion && !a.Criterion.IsPair)
            .ToList();
        var measured = read.Select(a => a.Response).OfType<Measured>().ToList();
        if (measured.Count == 0)
            return null;
        var figure = LimitSet
            .For(record.Case, read[0].Criterion, measured[0].Baseline)
            .Entries.Select(e => e.Resolved)
            .OfType<Figure>()
            .FirstOrDefault();
        if (figure is null)
            return null;
        var worst = figure.Grows
            ? measured.MaxBy(m => m.Value.Millimetres)!
            : measured.MinBy(m => m.Value.Millimetres)!;
        var reading = new LastReading(worst.Value, worst.Uncertainty, record.Day);

        // What was better than new when it was read was doubtful then, and tells nothing now.
        return
            figure.Reference is { } whenNew
            && reading.Contradicts(whenNew, read[0].Criterion.MostBetterThanNew, figure.Grows)
            ? null
            : (reading, figure.Grows);
    }
}
