using System.Buffers.Binary;
using System.Security.Cryptography;
using Keralith.Data;
using Keralith.Web.Security;

namespace Keralith.Web.Mailing;

/// <summary>Mails people what they are told on their pages, such as that a piece on their lift is on hold.</summary>
public sealed class NoticeMails(NoticeStore notices, Mails mails, PublicAddress address)
{
    /// <summary>Writes the mails of what nobody was mailed yet.</summary>
    /// <returns>How many were written.</returns>
    public async Task<int> SendAsync(CancellationToken cancel)
    {
        var told = await notices.ToMailAsync(cancel);
        foreach (var notice in told)
        {
            await mails.SendAsync(
                new(
                    IdOf(notice.Id),
                    notice.Username,
                    notice.Name,
                    notice.Address,
                    notice.Words.Length > LongestSubject
                        ? $"{FreeText.Start(notice.Words, LongestSubject)} ..."
                        : notice.Words,
                    $"{notice.Words}\n\n{address.Of(notice.Link)}\n"
                ),
                cancel
            );
        }

        return told.Count;
    }

    private const int LongestSubject = 100;

    /// <summary>The id of a notice's mail, the same on every node.</summary>
    private static Guid IdOf(long notice)
    {
        var bytes = new byte[sizeof(long)];
        BinaryPrimitives.WriteInt64BigEndian(bytes, notice);
        return new(SHA256.HashData([.. "notice"u8, .. bytes])[..16]);
    }
}
