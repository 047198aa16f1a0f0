namespace Keralith.Web.Lifts;

/// <summary>The fields of a plan as a form sends them, and what is done to its rows of gear.</summary>
public static class PlanForm
{
    private const int MostFields = 900;

    private static readonly HashSet<string> NotOfThePlan =
    [
        "Submission",
        "version",
        "add",
        "off",
        "id",
        "chart-lines",
        "chart-file",
        "chart-from",
        "chart-lines-second",
        "chart-file-second",
        "chart-from-second",
        "figure-off",
        "figure-configuration",
        "figure-boom",
        "figure-radius",
        "figure-capacity",
        "seen",
        "with",
    ];

    /// <summary>What was typed, by field; empty fields are left out.</summary>
    public static Dictionary<string, string> Typed(IFormCollection form)
    {
        var typed = new Dictionary<string, string>();
        foreach (var (name, values) in form)
        {
            if (typed.Count >= MostFields || name.Length > 40 || name.StartsWith('_') || NotOfThePlan.Contains(name))
                continue;
            if (values.FirstOrDefault() is { Length: > 0 } value)
                typed[name] = value;
        }

        return typed;
    }
}
