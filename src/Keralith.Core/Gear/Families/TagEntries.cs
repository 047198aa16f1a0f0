namespace Keralith.Core.Gear;

/// <summary>Entries many markings carry.</summary>
internal static class TagEntries
{
    public static TagEntry Maker { get; } = new("maker", "maker");

    public static TagEntry MakersCode { get; } = new("code", "maker's code");

    public static TagEntry RatedLoad { get; } = new("ratedLoad", "rated load");

    public static TagEntry Hitch { get; } = new("hitch", "hitch and angle of the rated load");

    public static TagEntry Identification { get; } = new("identification", "individual identification");

    public static TagEntry Serial { get; } = new("serial", "serial");

    public static TagEntry Legs { get; } = new("legs", "number of legs") { Due = g => g.Legs > 1 };

    public static TagEntry GradeIfAlloy { get; } = new("grade", "grade") { Due = g => g.Text("material") == "alloy" };
}
