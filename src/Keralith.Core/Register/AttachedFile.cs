using Keralith.Core.People;

namespace Keralith.Core.Register;

/// <summary>Files that go with pieces: certificates, reports, pictures.</summary>
public static class AttachedFile
{
    /// <summary>What was sent as a picture is none.</summary>
    public static Refusal NoPicture { get; } = new("A picture is a JPEG, PNG or WebP file.");

    /// <summary>A picture that can't be decoded to its end.</summary>
    public static Refusal TornPicture { get; } =
        new("The picture is torn or damaged and can't be read whole. Send it again.");

    /// <summary>A report nobody can read is none.</summary>
    public static Refusal UnreadableReport { get; } =
        new("The PDF can't be opened or has no page: a report is one that can be read.");

    /// <summary>What was sent is neither a picture nor a PDF.</summary>
    public static Refusal NeitherPictureNorPdf { get; } =
        new("Only pictures (JPEG, PNG, WebP) and PDF files are taken; this is neither.");

    /// <summary>Letters a file's title may have.</summary>
    public const int LongestTitle = 120;

    /// <summary>Most pictures one inspection keeps.</summary>
    public const int MostPhotos = 40;

    /// <summary>Why a file can't be attached; null when it can.</summary>
    /// <param name="pieces">How many pieces it belongs to.</param>
    /// <param name="title">Its title.</param>
    /// <param name="dated">The date on it; null: none.</param>
    public static Refusal? RefusalOf(int pieces, string? title, DateOnly? dated, Signer by) =>
        by.Without(Right.Attach)
        ?? (
            pieces == 0 ? new Refusal("Choose what it belongs to.")
            : string.IsNullOrWhiteSpace(title) || title.Length > LongestTitle
                ? new Refusal($"Name the file in at most {LongestTitle} letters.")
            : dated > by.Day ? new Refusal("The date on it is yet to come.")
            : null
        );

    /// <summary>What one person's files to be imported may take while they wait, in bytes.</summary>
    public const long MostWaiting = 128L * 1024 * 1024;

    /// <summary>What one person may attach within a day, in bytes.</summary>
    public const long MostADay = 1024L * 1024 * 1024;

    /// <summary>Why another file to be imported can't be kept; null when it can.</summary>
    /// <param name="bytes">What the person's files would take with it.</param>
    public static Refusal? RefusalOfWaiting(long bytes) =>
        bytes > MostWaiting
            ? new Refusal(
                $"Your files that wait to be imported would take {bytes / 1024 / 1024} MB, of {MostWaiting / 1024 / 1024}: land one first. What nobody lands goes after a week."
            )
            : null;

    /// <summary>Why another file can't be attached today; null when it can.</summary>
    /// <param name="bytes">What the person attached within a day, this one among them.</param>
    public static Refusal? RefusalOfQuota(long bytes) =>
        bytes > MostADay
            ? new Refusal(
                $"You attached {bytes / 1024 / 1024} MB within a day, of {MostADay / 1024 / 1024}: go on tomorrow."
            )
            : null;

    /// <summary>Why a picture can't be kept with a draft; null when it can.</summary>
    /// <param name="kept">How many it keeps already.</param>
    public static Refusal? RefusalOfPhoto(int kept, Signer by) =>
        by.Without(Right.Draft)
        ?? (kept >= MostPhotos ? new Refusal($"An inspection keeps at most {MostPhotos} pictures.") : null);
}
