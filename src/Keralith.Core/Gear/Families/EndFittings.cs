namespace Keralith.Core.Gear;

/// <summary>The part at the lower end: a hook, a link or a shackle, whichever is stated; none where nothing is.</summary>
internal static class EndFittings
{
    /// <param name="path">What stands before <c>hook</c> or <c>fitting</c> in the path, such as <c>leg-{n}/</c>.</param>
    /// <param name="name">What stands before the name, such as "Leg {n}, ".</param>
    public static IReadOnlyList<PartTemplate> On(string path, string name) =>
        [
            new($"{path}hook", Named(name, "hook"), HookCriteria.OnAssembly) { Present = g => g.EndFitting == "hook" },
            new($"{path}fitting", Named(name, "end link"), LinkCriteria.OnAnyLink)
            {
                Present = g => g.EndFitting == "link",
            },
            new($"{path}fitting", Named(name, "end shackle"), ShackleCriteria.OnFitting)
            {
                Present = g => g.EndFitting == "shackle",
            },
        ];

    /// <summary>The attributes that describe them.</summary>
    public static IReadOnlyList<string> Asks { get; } = ["endFitting", "hookLatch", "hookSwivels", "pinType"];

    private static string Named(string before, string word) =>
        before.Length > 0 ? before + word : char.ToUpperInvariant(word[0]) + word[1..];
}
