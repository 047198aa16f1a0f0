namespace Keralith.Core.Lifts;

/// <summary>One thing an arrangement must pass before it is lifted.</summary>
/// <param name="Code">Short fixed name.</param>
/// <param name="Text">What is asked.</param>
public sealed record ChecklistItem(string Code, string Text);

/// <summary>What is asked once a lift; the answers are kept with it.</summary>
public static class LiftChecklist
{
    /// <summary>Every item, in order; all are answered before a lift is ready.</summary>
    public static IReadOnlyList<ChecklistItem> Items { get; } =
    [
        new("weight", "The weight is known, and how"),
        new("gear", "Each piece is usable and is the one on the plan, by mark and rating"),
        new("rated", "Every piece is named and rated"),
        new("hook", "The hook is over the centre of gravity"),
        new("strong", "The load stands the inward pull"),
        new("edges", "Edges are padded"),
        new("twists", "No twist, knot, kink or crossed wrap"),
        new("hooks-out", "Hooks face outward; nothing is forced or hammered on"),
        new("people", "People are clear, fingers out"),
        new("tag-line", "A tag line is on, or is not needed"),
        new("path", "Path and landing are planned; travel is low"),
        new("signals", "Signals are agreed, one leads"),
        new("briefing", "The briefing was held; the risk assessment is read and signed"),
        new("loose", "Nothing is loose on or in the load"),
        new("wind", "Wind is low enough for the load's face"),
        new("trial", "Trial lift planned: 12 to 20 in (30 to 50 cm), stop, look, lower, adjust"),
        new("cordon", "The area is cordoned if the load is left hanging"),
        new("resting", "No sling will be pulled from under the resting load"),
        new("stops", "The hoist is not run to its stops; its rope is not slack on the floor"),
        new("surroundings", "Temperature and chemicals are within what the gear stands"),
    ];

    /// <summary>When to stop and ask.</summary>
    public static IReadOnlyList<string> AskForHelp { get; } =
    [
        "the weight or the centre of gravity can't be told",
        "the load is higher than it is wide, gives, or holds liquid",
        "the legs come flatter than 45 deg, or must be of different length",
        "more than one crane or hoist carries",
        "people must go under or ride with it",
        "the gear has been hot, in chemicals, or shocked",
        "anything on the plan says ask",
    ];

    /// <summary>Items not yet answered, by the codes answered.</summary>
    public static IReadOnlyList<ChecklistItem> Open(IReadOnlySet<string> answered) =>
        [.. Items.Where(i => !answered.Contains(i.Code))];
}
