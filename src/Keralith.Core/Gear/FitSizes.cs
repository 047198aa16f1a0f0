using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>The sizes that decide what seats in what. Each null where nobody has measured it.</summary>
/// <param name="Throat">Opening a piece goes through into the hook's bowl, latch held back.</param>
/// <param name="Bowl">Width of the hook's bowl where a load rests.</param>
/// <param name="Inside">Clear opening of an eye, link or bow.</param>
/// <param name="Stock">Thickness of the eye, link or bow where it rests in the bowl.</param>
/// <param name="Section">Thickness of the hook at its bowl, which must go through the eye.</param>
public sealed record FitSizes(Length? Throat, Length? Bowl, Length? Inside, Length? Stock, Length? Section)
{
    /// <summary>Nothing measured.</summary>
    public static FitSizes None { get; } = new(null, null, null, null, null);

    public bool IsHook => Throat is not null || Bowl is not null;
}

/// <summary>Whether a piece seats in a hook's bowl.</summary>
/// <param name="Seats">True, false, or null where a size is missing.</param>
/// <param name="Words">Why.</param>
public sealed record SeatCheck(bool? Seats, string Words)
{
    /// <summary>
    /// Checks a seat: the eye goes over the hook, through the throat, and rests in the bowl with room at both sides.
    /// What is not known is asked, never assumed.
    /// </summary>
    public static SeatCheck Of(FitSizes hook, FitSizes eye)
    {
        if (eye.Stock is { } stock)
        {
            if (hook.Throat is { } throat && stock >= throat)
                return new(
                    false,
                    $"At {stock} it does not go through the throat of {throat}: on the point of a hook it opens it. Use a ring or shackle that seats."
                );
            if (hook.Bowl is { } bowl && stock > bowl)
                return new(
                    false,
                    $"At {stock} it is wider than the bowl of {bowl} and would not rest in it. Use a ring or shackle that seats."
                );
        }

        if (eye.Inside is { } inside && hook.Section is { } section && inside <= section)
            return new(false, $"Its opening of {inside} does not go over the hook's section of {section}.");
        var missing = new[]
        {
            hook.Throat is null ? "the hook's throat" : null,
            hook.Bowl is null ? "the hook's bowl" : null,
            hook.Section is null ? "the hook's section" : null,
            eye.Stock is null ? "the thickness of what goes in" : null,
            eye.Inside is null ? "the opening of what goes in" : null,
        }
            .OfType<string>()
            .ToList();
        return missing.Count > 0
            ? new(null, $"Not known: {string.Join(", ", missing)}. Measure, or ask a qualified person.")
            : new(true, "It goes through the throat, over the section, and rests in the bowl.");
    }
}
