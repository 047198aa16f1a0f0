using Keralith.Data;

namespace Keralith.Web.Files;

/// <summary>Reads a file a form sends, with what the form says of it.</summary>
internal static class Upload
{
    /// <summary>Largest request that carries one file.</summary>
    public const long MostRequest = Received.MostBytes + (64 * 1024);

    /// <summary>Reads a picture of something found.</summary>
    public static async Task<Checked<NewFile>> PhotoAsync(
        Guid person,
        IFormFile? file,
        string title,
        CancellationToken cancel
    ) =>
        file is null
            ? new Refusal("Choose a picture.")
            : await ReadAsync(person, file, Code.Of(FileKind.Photo), FreeText.Start(title, 120), null, cancel);

    public static async Task<Checked<NewFile>> ReadAsync(
        Guid person,
        IFormFile? file,
        string? kind,
        string? title,
        string? dated,
        CancellationToken cancel
    )
    {
        if (file is null)
            return new Refusal("Choose a file.");
        if (Code.Find<FileKind>(kind) is not { } known)
            return new Refusal("Choose what it is.");
        if (string.IsNullOrWhiteSpace(title))
            return new Refusal("Write its name or number.");
        var day = DayReader.Read(dated);
        if (!day.Ok)
            return day.Refusal!;

        if (file.Length > Received.MostBytes)
            return new Refusal(
                $"The file has {file.Length / 1024 / 1024} MB; at most {Received.MostBytes / 1024 / 1024} MB are taken."
            );
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes, cancel);
        return await Received.ReadAsync(person, known, title.Trim(), day.Value, bytes.ToArray(), cancel);
    }
}
