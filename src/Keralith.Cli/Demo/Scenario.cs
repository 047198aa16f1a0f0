using System.Text.Json;

namespace Keralith.Cli.Demo;

/// <summary>The written part of the demo scenario.</summary>
internal sealed record Scenario(
    string Site,
    string[] RuleBooks,
    ScenarioSeason[] Seasons,
    ScenarioStore[] Stores,
    ScenarioPerson[] People,
    ScenarioChain[] Chain,
    ScenarioShackle[] Shackles,
    ScenarioPiece[] Others
)
{
    public static Scenario Read()
    {
        using var stream = typeof(Scenario).Assembly.GetManifestResourceStream("hollowmere.json")!;
        return JsonSerializer.Deserialize<Scenario>(stream, JsonSerializerOptions.Web)!;
    }
}

/// <summary>A season's mark.</summary>
internal sealed record ScenarioSeason(string Letter, string Colour, string Pattern);

internal sealed record ScenarioStore(string Name, string About, string? Kind, bool OftenOffline);

internal sealed record ScenarioPerson(string Username, string Name, string Role);

/// <summary>A make of chain sling: sizes, single-leg rated load and the figures when new.</summary>
internal sealed record ScenarioChain(
    string Size,
    string Grade,
    decimal? RatedLb,
    decimal? RatedKg,
    string Throat,
    string Section,
    string Top,
    string Coupling,
    string Maker,
    string Model
);

/// <summary>A make of shackle.</summary>
internal sealed record ScenarioShackle(string Size, string Rated, string Pin, string Maker, string Model);

/// <summary>A piece of any other family.</summary>
/// <param name="Fields">Its attributes, as typed.</param>
/// <param name="Figure">The figure when new of its measures.</param>
/// <param name="Figures">Where a measure's figure is another, by criterion.</param>
internal sealed record ScenarioPiece(
    string Family,
    string Maker,
    string Model,
    string Rated,
    Dictionary<string, string> Fields,
    string Figure,
    Dictionary<string, string> Figures
);
