using Keralith.Core.People;
using Keralith.Core.Wear;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Teaches;

/// <summary>What gear costs to buy: a note of the works, for what there is to order.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class PricesModel(Here here, PriceStore store) : YardPage(here)
{
    public IReadOnlyList<PricedLine> Lines { get; private set; } = [];

    public bool MaySet => Here.May(Right.Register);

    /// <summary>What was typed, in the order of the lines: kept when it is refused.</summary>
    public IReadOnlyList<string?> Typed { get; private set; } = [];

    /// <summary>Whether prices were just kept.</summary>
    [BindProperty(SupportsGet = true, Name = "kept")]
    public bool IsKept { get; set; }

    public async Task OnGetAsync() => Lines = await store.AllAsync(Cancel);

    /// <param name="family">The family of each line.</param>
    /// <param name="size">Its size, empty where it has none.</param>
    /// <param name="price">Its price as typed.</param>
    [Takes(Right.Register)]
    public async Task<IActionResult> OnPostAsync(string[] family, string?[] size, string?[] price)
    {
        Typed = price;
        if (family.Length != size.Length || family.Length != price.Length)
            return BadRequest();
        return await AfterAsync(
            await store.SetAsync(
                [.. family.Select((f, i) => new EnteredPrice(f, size[i] ?? string.Empty, price[i]))],
                Here.Stamp(Submission),
                Cancel
            ),
            "/teaches/prices?kept=true",
            async () => Lines = await store.AllAsync(Cancel)
        );
    }
}
