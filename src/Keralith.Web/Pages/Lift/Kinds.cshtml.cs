using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Web.Pages.Lift;

/// <summary>Which kind of sling fits a load.</summary>
public sealed class KindsModel(Here here) : YardPage(here)
{
    /// <summary>What was ticked, by name.</summary>
    public IReadOnlySet<string> Is { get; private set; } = new HashSet<string>();

    public string? Temperature { get; private set; }

    public string? Fault { get; private set; }

    public IReadOnlyList<SlingKind> Kinds { get; private set; } = [];

    public async Task OnGetAsync(string[] @is, string? temperature)
    {
        (Is, Temperature) = (@is.ToHashSet(), temperature);
        var read = string.IsNullOrWhiteSpace(temperature)
            ? (Checked<Temperature>?)null
            : Core.Quantities.Temperature.Read(temperature);
        Fault = read?.Fault;
        var sites = await Here.SitesAsync(Cancel);
        var site = sites.Together(sites.All.Select(s => s.Id));
        Kinds = SlingKinds.For(
            new()
            {
                Finish = Is.Contains("finish"),
                SharpEdges = Is.Contains("edges"),
                Rough = Is.Contains("rough"),
                Sunlight = Is.Contains("sunlight"),
                Light = Is.Contains("light"),
                Shock = Is.Contains("shock"),
                Temperature = read is { Ok: true } r ? r.Value : null,
                Chemicals = [.. Enum.GetValues<Chemical>().Where(c => Is.Contains(Code.Of(c)))],
                NoChain = site.Policies.NoChainHoisting,
                Books = site.Books,
            }
        );
    }
}
