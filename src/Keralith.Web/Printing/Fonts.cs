using System.Collections.Concurrent;
using SkiaSharp;

namespace Keralith.Web.Printing;

/// <summary>The application's own typefaces, for paper.</summary>
public static class Fonts
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "wwwroot", "assets");

    private static readonly ConcurrentDictionary<string, SKTypeface> Faces = new();

    /// <summary>The typeface of a type.</summary>
    /// <exception cref="FileNotFoundException">The application was built without its assets.</exception>
    public static SKTypeface Of(Type type) =>
        Faces.GetOrAdd(FileOf(type), name =>
            SKTypeface.FromFile(PathOf(name)) ?? throw new FileNotFoundException("The typeface is missing.", name)
        );

    /// <summary>The file a type's face comes from.</summary>
    public static string FileOf(Type type) =>
        $"AtkinsonHyperlegible{(type.Mono ? "Mono" : "Next")}_{(type.Bold ? "700Bold" : "400Regular")}.ttf";

    /// <summary>Where that file lies.</summary>
    public static string PathOf(string file) => Path.Combine(Folder, file);

    /// <summary>The typeface at its size, in whatever unit the size is: advances are not rounded to whole ones.</summary>
    public static SKFont Sized(Type type) =>
        new(Of(type), (float)type.Size)
        {
            Subpixel = true,
            LinearMetrics = true,
            Hinting = SKFontHinting.None,
        };
}
