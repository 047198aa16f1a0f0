using Keralith.Core.People;

namespace Keralith.Core.Register;

/// <summary>Files that go with pieces: certificates, reports, pictures.</summary>
public static class AttachedFile
{
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

    /// <summary>Why a picture can't be kept with a draft; null when it can.</summary>
    /// <param name="kept">How many it keeps already.</param>
    public static Refusal? RefusalOfPhoto(int kept, Signer by) =>
        by.Without(Right.Draft)
        ?? (kept >= MostPhotos ? new Refusal($"An inspection keeps at most {MostPhotos} pictures.") : null);
}
