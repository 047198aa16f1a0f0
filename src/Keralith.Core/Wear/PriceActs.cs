using Keralith.Core.Gear;
using Keralith.Core.People;

namespace Keralith.Core.Wear;

/// <summary>What is bought again, as its price is entered.</summary>
/// <param name="Family">The family's code.</param>
/// <param name="Size">Its size; empty where the family has none.</param>
/// <param name="Price">As typed; empty: none.</param>
public sealed record EnteredPrice(string Family, string Size, string? Price);

/// <summary>What is decided about prices.</summary>
public static class PriceActs
{
    /// <summary>Reads prices as they are to be kept; null where one is taken away.</summary>
    public static Checked<IReadOnlyList<(string Family, string Size, Price? Price)>> Set(
        IEnumerable<EnteredPrice> entered,
        Signer by
    )
    {
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        var read = new List<(string, string, Price?)>();
        foreach (var line in entered)
        {
            if (GearFamilies.Find(line.Family) is null)
                return new Refusal("There is no such family.");
            var price = Price.Read(line.Price);
            if (!price.Ok)
                return price.Refusal!;
            read.Add((line.Family, line.Size, price.Value));
        }

        return read;
    }
}
