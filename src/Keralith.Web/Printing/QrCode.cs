using System.Collections;
using QRCoder;

namespace Keralith.Web.Printing;

/// <summary>QR codes as rows of modules.</summary>
internal static class QrCode
{
    /// <summary>The code of a text, without the quiet zone: the paper's own margin is one.</summary>
    public static IReadOnlyList<BitArray> Of(string text)
    {
        using var generator = new QRCodeGenerator();
        using var qr = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        return qr
            .ModuleMatrix.Skip(4)
            .SkipLast(4)
            .Select(r => new BitArray([.. r.Cast<bool>().Skip(4).SkipLast(4)]))
            .ToList();
    }
}
