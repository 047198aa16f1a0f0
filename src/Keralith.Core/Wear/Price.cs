using System.Globalization;
using System.Text.RegularExpressions;
using Keralith.Core.Quantities;

namespace Keralith.Core.Wear;

/// <summary>What a piece costs to buy.</summary>
/// <param name="Amount">Over 0, at most <see cref="MostAmount"/>, two decimals at most.</param>
/// <param name="Currency">Its three letters (ISO 4217).</param>
public readonly partial record struct Price(decimal Amount, string Currency)
{
    /// <summary>The most a price may be.</summary>
    public const decimal MostAmount = 10_000_000;

    /// <summary>Reads a price as typed: <c>120 EUR</c>, <c>1250.50 CAD</c>.</summary>
    /// <returns>The price; null where nothing was typed.</returns>
    public static Checked<Price?> Read(string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return (Price?)null;
        var read = Written().Match(text.Trim());
        return
            read.Success
            && decimal.TryParse(
                read.Groups[1].ValueSpan,
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var amount
            )
            && amount is > 0 and <= MostAmount
            ? (Price?)new Price(amount, read.Groups[2].Value.ToUpperInvariant())
            : new Refusal(
                $"\"{text.Trim()}\": write a price as its amount and the three letters of its currency, such as 120 EUR."
            );
    }

    /// <summary>So many of them, rounded to whole units.</summary>
    /// <param name="count">0 and over.</param>
    public Price Times(double count) => this with { Amount = Math.Round(Amount * (decimal)count) };

    /// <summary>What several come to, currency by currency.</summary>
    public static IReadOnlyList<Price> Sum(IEnumerable<Price> prices) =>
        [
            .. prices
                .GroupBy(p => p.Currency)
                .Select(g => new Price(g.Sum(p => p.Amount), g.Key))
                .OrderBy(p => p.Currency, StringComparer.Ordinal),
        ];

    /// <summary>As it is read: <c>120 EUR</c>.</summary>
    public override string ToString() => $"{QuantityFormat.Number(Amount)} {Currency}";

    [GeneratedRegex(@"^(\d{1,8}(?:\.\d{1,2})?)\s*([A-Za-z]{3})$")]
    private static partial Regex Written();
}
