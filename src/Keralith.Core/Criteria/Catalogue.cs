using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using Keralith.Core.Gear;

namespace Keralith.Core.Criteria;

/// <summary>The removal criteria, all of them, and where they sit on a piece.</summary>
public static class Catalogue
{
    /// <summary>Raised whenever a rule or limit changes; kept with every signed inspection.</summary>
    public const string Version = "2026.1";

    /// <summary>All criteria, in the order they are asked.</summary>
    public static IReadOnlyList<Criterion> All { get; } =
    [
        .. CommonCriteria.All,
        .. ChainCriteria.All,
        .. HookCriteria.All,
        .. ShackleCriteria.All,
        .. LinkCriteria.All,
    ];

    private static readonly Dictionary<string, (Criterion Criterion, int Order)> ById = All.Select((c, i) => (c, i)).ToDictionary(p => p.c.Id, p => p);

    /// <summary>What sits on a part of each template, in catalogue order; sorted once.</summary>
    private static readonly ConcurrentDictionary<(PartTemplate Template, bool First), Criterion[]> Placed = new(new ByIdentity());

    private static readonly Criterion[] OnWhole = InOrder(CommonCriteria.OnWhole);

    /// <summary>The criterion of an id, or null when there is none.</summary>
    public static Criterion? Find(string id) => ById.TryGetValue(id, out var found) ? found.Criterion : null;

    /// <summary>The criterion of an id.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    public static Criterion Get(string id) => ById[id].Criterion;

    /// <summary>
    /// The parts of a piece in the order a hand travels, each with the criteria that may be answered on it in catalogue order.
    /// <c>legs</c> and <c>whole</c> come last.
    /// </summary>
    public static IReadOnlyList<Part> Parts(GearPiece gear, IReadOnlyList<RuleBook> books)
    {
        var context = new AskContext(gear, books);
        var parts = new List<Part>();
        var templates = gear.Family.Parts;
        for (var i = 0; i < templates.Count;)
        {
            if (!templates[i].PerLeg)
            {
                Add(parts, context, templates[i], 0);
                i++;
                continue;
            }

            var end = i;
            while (end < templates.Count && templates[end].PerLeg) end++;
            for (var leg = 1; leg <= gear.Legs; leg++)
            {
                for (var t = i; t < end; t++) Add(parts, context, templates[t], leg);
            }

            i = end;
        }

        parts.Add(new("whole", "The whole piece", Applying(OnWhole, context)));
        return parts;
    }

    private static void Add(List<Part> parts, AskContext context, PartTemplate template, int leg)
    {
        if (!template.Present(context.Gear)) return;
        var number = leg.ToString();
        var first = parts.Count == 0;
        var criteria = Placed.GetOrAdd((template, first), static key => InOrder(key.First ? [.. CommonCriteria.OnFirstPart, .. key.Template.Criteria] : key.Template.Criteria));
        parts.Add(new(
            template.Path.Replace("{n}", number, StringComparison.Ordinal),
            template.Name.Replace("{n}", number, StringComparison.Ordinal),
            Applying(criteria, context)));
    }

    private static Criterion[] InOrder(IEnumerable<string> ids) => ids.Select(id => ById[id]).OrderBy(c => c.Order).Select(c => c.Criterion).ToArray();

    private static List<Criterion> Applying(Criterion[] criteria, AskContext context)
    {
        var applying = new List<Criterion>(criteria.Length);
        foreach (var criterion in criteria)
        {
            if (criterion.Applies(context)) applying.Add(criterion);
        }

        return applying;
    }

    /// <summary>Templates are compared by identity: there is one of each.</summary>
    private sealed class ByIdentity : IEqualityComparer<(PartTemplate Template, bool First)>
    {
        public bool Equals((PartTemplate Template, bool First) a, (PartTemplate Template, bool First) b) => ReferenceEquals(a.Template, b.Template) && a.First == b.First;

        public int GetHashCode((PartTemplate Template, bool First) key) => HashCode.Combine(RuntimeHelpers.GetHashCode(key.Template), key.First);
    }
}

/// <summary>A part of a given piece and what may be answered on it.</summary>
/// <param name="Path">The part's path, such as <c>leg-1/hook</c>.</param>
/// <param name="Name">The name people read.</param>
/// <param name="Criteria">In catalogue order.</param>
public sealed record Part(string Path, string Name, IReadOnlyList<Criterion> Criteria);
