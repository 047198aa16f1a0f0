using System.Security.Cryptography;
using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.XmlEncryption;

namespace Keralith.Web.Security;

/// <summary>The key that seals the keys in the database: a file beside the application, never in the database.</summary>
/// <param name="Key">32 bytes.</param>
public sealed record MasterKey(byte[] Key)
{
    private const int Bytes = 32;

    /// <summary>Reads the key of a file, or makes one there that nobody else may read.</summary>
    /// <exception cref="InvalidOperationException">The file holds no key.</exception>
    public static MasterKey Of(string file)
    {
        if (!File.Exists(file))
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(file))!);
            var made = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
            if (!OperatingSystem.IsWindows())
                made.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            using var stream = new FileStream(file, made);
            stream.Write(RandomNumberGenerator.GetBytes(Bytes));
        }

        var key = File.ReadAllBytes(file);
        return key.Length == Bytes
            ? new(key)
            : throw new InvalidOperationException($"{file} holds {key.Length} bytes where the key has {Bytes}.");
    }
}

/// <summary>Seals a key before it is kept (AES-256-GCM).</summary>
internal sealed class KeySealer(MasterKey key) : IXmlEncryptor
{
    public EncryptedXmlInfo Encrypt(XElement plaintextElement)
    {
        var plain = System.Text.Encoding.UTF8.GetBytes(plaintextElement.ToString(SaveOptions.DisableFormatting));
        var nonce = RandomNumberGenerator.GetBytes(AesGcm.NonceByteSizes.MaxSize);
        var (tag, box) = (new byte[AesGcm.TagByteSizes.MaxSize], new byte[plain.Length]);
        using var aes = new AesGcm(key.Key, tag.Length);
        aes.Encrypt(nonce, plain, box, tag);
        return new(new XElement("sealed", Convert.ToBase64String([.. nonce, .. tag, .. box])), typeof(KeyOpener));
    }
}

/// <summary>Opens what <see cref="KeySealer"/> sealed.</summary>
internal sealed class KeyOpener(IServiceProvider services) : IXmlDecryptor
{
    public XElement Decrypt(XElement encryptedElement)
    {
        var key = services.GetRequiredService<MasterKey>();
        var all = Convert.FromBase64String(encryptedElement.Value).AsSpan();
        var (nonce, tag) = (AesGcm.NonceByteSizes.MaxSize, AesGcm.TagByteSizes.MaxSize);
        var plain = new byte[all.Length - nonce - tag];
        using var aes = new AesGcm(key.Key, tag);
        aes.Decrypt(all[..nonce], all[(nonce + tag)..], all[nonce..(nonce + tag)], plain);
        return XElement.Parse(System.Text.Encoding.UTF8.GetString(plain));
    }
}
