namespace Keralith.Core.RatedLoad;

/// <summary>How a sling holds its load.</summary>
public enum Hitch
{
    /// <summary>Straight from the hook to the load.</summary>
    Vertical,

    /// <summary>Round the load and through its own eye.</summary>
    Choker,

    /// <summary>Under the load, both ends up.</summary>
    Basket,
}
