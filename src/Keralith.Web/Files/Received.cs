using System.Threading.RateLimiting;
using Keralith.Core.Register;
using Keralith.Data;
using PdfSharp.Pdf.IO;
using SkiaSharp;

namespace Keralith.Web.Files;

/// <summary>
/// Makes a file somebody sent safe to keep: a picture is decoded and drawn anew, so that nothing rides along in it; a
/// PDF is kept as it is and only ever
/// handed out as a download.
/// </summary>
public static class Received
{
    /// <summary>Largest file taken, in bytes: a phone's picture fits.</summary>
    public const int MostBytes = 12 * 1024 * 1024;

    /// <summary>Most points a picture may have before it is decoded; more is a picture made to fill a memory.</summary>
    private const long MostPixels = 24_000_000;

    private const int LargeSide = 1600;
    private const int SmallSide = 240;

    /// <summary>
    /// One picture of a person is decoded at a time, and two of all: each takes a few hundred megabytes for a moment.
    /// </summary>
    private static readonly PartitionedRateLimiter<Guid> Decoding = PartitionedRateLimiter.CreateChained(
        PartitionedRateLimiter.Create<Guid, Guid>(person =>
            RateLimitPartition.GetConcurrencyLimiter(person, _ => Most(1))
        ),
        PartitionedRateLimiter.Create<Guid, int>(_ => RateLimitPartition.GetConcurrencyLimiter(0, _ => Most(2)))
    );

    private static ConcurrencyLimiterOptions Most(int permits) =>
        new() { PermitLimit = permits, QueueLimit = int.MaxValue };

    /// <summary>Reads a file as it was sent.</summary>
    /// <param name="person">Who sent it.</param>
    public static async Task<Checked<NewFile>> ReadAsync(
        Guid person,
        FileKind kind,
        string title,
        DateOnly? dated,
        byte[] bytes,
        CancellationToken cancel
    )
    {
        if (bytes.Length == 0)
            return new Refusal("The file is empty.");
        if (bytes.Length > MostBytes)
            return new Refusal(
                $"The file has {bytes.Length / 1024 / 1024} MB; at most {MostBytes / 1024 / 1024} MB are taken."
            );
        if (bytes.AsSpan().StartsWith("%PDF-"u8))
        {
            return kind is FileKind.Photo or FileKind.TagPhoto ? AttachedFile.NoPicture
                : kind is FileKind.Report && !HasPages(bytes) ? AttachedFile.UnreadableReport
                : new NewFile(kind, title, dated, "application/pdf", bytes, null);
        }

        using var turn = await Decoding.AcquireAsync(person, 1, cancel);
        return Picture(kind, title, dated, bytes);
    }

    /// <summary>Whether a PDF can be opened and has a page at the least.</summary>
    private static bool HasPages(byte[] bytes)
    {
        try
        {
            using var stream = new MemoryStream(bytes);
            using var pdf = PdfReader.Open(stream, PdfDocumentOpenMode.Import);
            return pdf.PageCount > 0;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // Whatever the reader makes of a file that is none: it can't be read.
            return false;
        }
    }

    private static Checked<NewFile> Picture(FileKind kind, string title, DateOnly? dated, byte[] bytes)
    {
        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data);
        if (
            codec is null
            || codec.EncodedFormat
                is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Webp)
        )
            return AttachedFile.NeitherPictureNorPdf;
        var info = codec.Info;
        if ((long)info.Width * info.Height > MostPixels)
            return new Refusal(
                $"The picture has {info.Width} x {info.Height} points, more than a camera makes. Send it smaller."
            );
        using var whole = new SKBitmap(
            new SKImageInfo(info.Width, info.Height, SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        if (codec.GetPixels(whole.Info, whole.GetPixels()) != SKCodecResult.Success)
            return AttachedFile.TornPicture;
        using var upright = Upright(whole, codec.EncodedOrigin);
        return new NewFile(
            kind,
            title,
            dated,
            "image/jpeg",
            Jpeg(upright, LargeSide, 82),
            Jpeg(upright, SmallSide, 75)
        );
    }

    /// <summary>Turned as the camera was held.</summary>
    private static SKBitmap Upright(SKBitmap picture, SKEncodedOrigin origin)
    {
        var degrees = origin switch
        {
            SKEncodedOrigin.BottomRight => 180,
            SKEncodedOrigin.RightTop => 90,
            SKEncodedOrigin.LeftBottom => 270,
            _ => 0,
        };
        if (degrees == 0)
            return picture.Copy();
        var turned =
            degrees == 180 ? new SKBitmap(picture.Width, picture.Height) : new SKBitmap(picture.Height, picture.Width);
        using var canvas = new SKCanvas(turned);
        canvas.Translate(turned.Width / 2f, turned.Height / 2f);
        canvas.RotateDegrees(degrees);
        canvas.DrawBitmap(picture, -picture.Width / 2f, -picture.Height / 2f);
        return turned;
    }

    private static byte[] Jpeg(SKBitmap picture, int side, int quality)
    {
        var scale = Math.Min(1f, side / (float)Math.Max(picture.Width, picture.Height));
        using var surface = SKSurface.Create(
            new SKImageInfo(
                Math.Max(1, (int)(picture.Width * scale)),
                Math.Max(1, (int)(picture.Height * scale)),
                SKColorType.Rgba8888,
                SKAlphaType.Opaque
            )
        );
        surface.Canvas.Clear(SKColors.White);
        surface.Canvas.Scale(scale);
        using var image = SKImage.FromBitmap(picture);
        surface.Canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using var drawn = surface.Snapshot();
        using var encoded = drawn.Encode(SKEncodedImageFormat.Jpeg, quality);
        return encoded.ToArray();
    }
}
