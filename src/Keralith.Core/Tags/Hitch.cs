namespace Keralith.Core.Tags;

/// <summary>How a sling holds its load.</summary>
public enum Hitch
{
    /// <summary>Straight from the hook to the load.</summary>
    [Code("vertical")]
    Vertical,

    /// <summary>Round the load and through its own eye.</summary>
    [Code("choker")]
    Choker,

    /// <summary>Under the load, both ends up.</summary>
    [Code("basket")]
    Basket,
}
