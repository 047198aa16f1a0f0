using Keralith.Data;
using Keralith.Web.Printing;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Files;

/// <summary>The incident file of a piece that failed.</summary>
internal static class IncidentEndpoint
{
    /// <summary>Pictures that go into one file.</summary>
    private const int MostPictures = 24;

    public static async Task<IResult> SendAsync(
        string mark,
        [FromQuery] string? failed,
        Here here,
        PieceStore pieces,
        LookBackStore back,
        InspectionStore inspections,
        FileStore files,
        CancellationToken cancel
    )
    {
        if (await pieces.FindAsync(mark, cancel) is not { } piece)
            return Results.NotFound();
        var at = LookBackDay.Of(failed, here);
        var pictures = new List<(string, byte[])>();
        foreach (
            var file in (await files.OfAsync(piece.Id, cancel))
                .Where(f => f.MediaType == "image/jpeg")
                .Take(MostPictures)
        )
        {
            if (await files.ReadAsync(file.Id, false, cancel) is { } read)
                pictures.Add(($"{file.Title}, {Say.Time(file.At)}, {file.By}", read.Bytes));
        }

        var site = await here.SiteOfAsync(piece, cancel);
        return Results.File(
            IncidentFile.Pdf(
                new(
                    site.Name,
                    piece,
                    at,
                    await back.OfAsync(piece.Id, piece.Mark, at, cancel),
                    await back.WitnessesAsync(piece.Id, cancel),
                    await inspections.SignedAsync(piece.Id, cancel),
                    pictures
                ),
                here.Day,
                here.Now
            ),
            "application/pdf",
            $"incident-{piece.Mark}.pdf"
        );
    }
}

/// <summary>The moment a look back starts from.</summary>
internal static class LookBackDay
{
    /// <summary>The end of a day in the past as it is typed, else now.</summary>
    public static DateTimeOffset Of(string? failed, Here here) =>
        DateOnly.TryParseExact(failed, "yyyy-MM-dd", out var on) && on < here.Today && on.Year > 2000
            ? new(on.AddDays(1).ToDateTime(TimeOnly.MinValue), TimeSpan.Zero)
            : here.Now;
}
