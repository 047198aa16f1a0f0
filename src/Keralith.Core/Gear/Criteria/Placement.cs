using System.Text.Json;

namespace Keralith.Core.Gear;

/// <summary>A part of a given piece and what may be answered on it.</summary>
/// <param name="Path">The part's path, such as <c>leg-1/hook</c>.</param>
/// <param name="Name">The name people read.</param>
/// <param name="Criteria">In catalogue order.</param>
public sealed record Part(string Path, string Name, IReadOnlyList<Criterion> Criteria);

/// <summary>A criterion where it sits on a piece.</summary>
public sealed record PlacedCriterion(Criterion Criterion, string Part)
{
    private byte[]? _written;

    /// <summary>
    /// Criterion and part as a document names them: the same for every piece of a make-up, so kept once made. Nothing for
    /// a site's own question, which no document of the catalogue names.
    /// </summary>
    internal ReadOnlySpan<byte> Written =>
        _written ??= OwnQuestion.IsId(Criterion.Id)
            ? []
            : JsonSerializer.SerializeToUtf8Bytes(new { criterion = Criterion.Id, part = Part });

    /// <summary>The same criterion on a part of the same path.</summary>
    public bool Equals(PlacedCriterion? other) =>
        other is not null && Criterion.Equals(other.Criterion) && Part == other.Part;

    public override int GetHashCode() => HashCode.Combine(Criterion, Part);
}

/// <summary>
/// What sits where on gear of one make-up under one set of books. Two pieces that differ only in sizes, figures and texts
/// share a placement, so it is worked out once and kept.
/// </summary>
public sealed class Placement
{
    private readonly Dictionary<string, (Part Part, int FirstSlot)> _byPath;
    private readonly PlacedCriterion[] _questions;

    internal Placement(IReadOnlyList<Part> parts)
    {
        Parts = parts;
        _byPath = new(parts.Count);
        var questions = new List<PlacedCriterion>();
        foreach (var part in parts)
        {
            _byPath.Add(part.Path, (part, questions.Count));
            foreach (var criterion in part.Criteria)
                questions.Add(new(criterion, part.Path));
        }

        _questions = [.. questions];
    }

    /// <summary>
    /// The parts in the order a hand travels, each with the criteria that may be answered on it in catalogue order.
    /// <c>legs</c> and <c>whole</c> come last.
    /// </summary>
    public IReadOnlyList<Part> Parts { get; }

    /// <summary>Every criterion on every part, by part and then in catalogue order.</summary>
    public IReadOnlyList<PlacedCriterion> Questions => _questions;

    /// <summary>The same, to go through quickly.</summary>
    internal ReadOnlySpan<PlacedCriterion> EachQuestion => _questions;

    /// <summary>The same with a site's own questions asked on its parts, after the catalogue's.</summary>
    public Placement With(IReadOnlyList<OwnQuestion> own) =>
        own.Count == 0
            ? this
            : new([
                .. Parts.Select(p =>
                    p with
                    {
                        Criteria = [.. p.Criteria, .. own.Where(q => q.SitsOn(p.Path)).Select(q => q.Criterion)],
                    }
                ),
            ]);

    /// <summary>The part of a path, or null when the piece has none.</summary>
    public Part? Find(string path) => _byPath.TryGetValue(path, out var found) ? found.Part : null;

    /// <summary>Where a criterion on a part stands in <see cref="Questions"/>; -1 when it does not sit there.</summary>
    public int IndexOf(Criterion criterion, string path)
    {
        if (!_byPath.TryGetValue(path, out var found))
            return -1;
        var end = found.FirstSlot + found.Part.Criteria.Count;
        for (var i = found.FirstSlot; i < end; i++)
        {
            if (ReferenceEquals(_questions[i].Criterion, criterion))
                return i;
        }

        return -1;
    }
}

/// <summary>The parts of a piece as its family's templates make them, with the criteria that apply.</summary>
internal static class PlacementBuilder
{
    public static Placement Build(GearPiece gear, IReadOnlyList<RuleBook> books)
    {
        var context = new AskContext(gear, books);
        var parts = new List<Part>();
        var templates = gear.Family.Parts;
        for (var i = 0; i < templates.Count; )
        {
            if (!templates[i].PerLeg)
            {
                Add(parts, context, templates[i], 0);
                i++;
                continue;
            }

            var end = i;
            while (end < templates.Count && templates[end].PerLeg)
                end++;
            for (var leg = 1; leg <= gear.Legs; leg++)
            {
                for (var t = i; t < end; t++)
                    Add(parts, context, templates[t], leg);
            }

            i = end;
        }

        parts.Add(new("whole", "The whole piece", Applying(CommonCriteria.OnWhole, context)));
        return new(parts);
    }

    private static void Add(List<Part> parts, AskContext context, PartTemplate template, int leg)
    {
        if (!template.Present(context.Gear))
            return;
        IEnumerable<string> ids =
            parts.Count == 0 ? [.. CommonCriteria.OnFirstPart, .. template.Criteria] : template.Criteria;
        parts.Add(new(Numbered(template.Path, leg), Numbered(template.Name, leg), Applying(ids, context)));
    }

    private static string Numbered(string text, int leg) =>
        text.Replace("{n}", leg.ToString(), StringComparison.Ordinal);

    private static Criterion[] Applying(IEnumerable<string> ids, AskContext context) =>
        ids.Select(Catalogue.Get).Where(c => c.Applies(context)).OrderBy(c => Catalogue.OrderOf(c.Id)).ToArray();
}
