using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Keralith.Core.Ledger;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The ledger as a Merkle log: by the vectors of the Certificate Transparency reference tree (RFC 6962).</summary>
public class MerkleLogTests
{
    private static readonly string[] Inputs =
    [
        "",
        "00",
        "10",
        "2021",
        "3031",
        "40414243",
        "5051525354555657",
        "606162636465666768696a6b6c6d6e6f",
    ];

    private static byte[][] Leaves(int count) =>
        [.. Inputs.Take(count).Select(i => MerkleLog.Leaf(Convert.FromHexString(i)))];

    private static string Hex(byte[] bytes) => Convert.ToHexStringLower(bytes);

    [Theory]
    [InlineData(0, "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855")]
    [InlineData(1, "6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d")]
    [InlineData(2, "fac54203e7cc696cf0dfcb42c92a1d9dbaf70ad9e621f4bd8d98662f00e3c125")]
    [InlineData(3, "aeb6bcfe274b70a14fb067a5e5578264db0fa9b51af5e0ba159158f329e06e77")]
    [InlineData(4, "d37ee418976dd95753c1c73862b9398fa2a2cf9b4ff0fdfe8b30cd95209614b7")]
    [InlineData(5, "4e3bbb1f7b478dcfe71fb631631519a3bca12c9aefca1612bfce4c13a86264d4")]
    [InlineData(6, "76e67dadbcdf1e10e1b74ddc608abd2f98dfb16fbce75277b5232a127f2087ef")]
    [InlineData(7, "ddb89be403809e325750d3d263cd78929c2942b7942a34b77e122c9594a74c8c")]
    [InlineData(8, "5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328")]
    public void The_root_is_the_reference_trees(int leaves, string root) =>
        Assert.Equal(root, Hex(MerkleLog.Root(Leaves(leaves))));

    [Fact]
    public void A_proof_is_the_reference_trees() =>
        Assert.Equal(
            [
                "96a296d224f285c67bee93c30f8a309157f0daa35dc5b87e410b78630a09cfc7",
                "5f083f0a1a33ca076a95279832580db3e0ef4584bdff1f54c8a360f50de3031e",
                "6b47aaf29ee3c2af9af889bc1fb9254dabd31177f16232dd6aab035ca39bf6e4",
            ],
            MerkleLog.Inclusion(0, Leaves(8)).Select(Hex)
        );

    [Fact]
    public void Every_leaf_of_every_size_is_proved_in_its_place_and_in_no_other()
    {
        for (var size = 1; size <= 33; size++)
        {
            var leaves = Enumerable.Range(0, size).Select(i => MerkleLog.Leaf([(byte)i])).ToArray();
            var root = MerkleLog.Root(leaves);
            for (var i = 0; i < size; i++)
            {
                var path = MerkleLog.Inclusion(i, leaves);
                Assert.True(MerkleLog.Includes(leaves[i], i, size, path, root));
                Assert.False(MerkleLog.Includes(MerkleLog.Leaf([200]), i, size, path, root));
                Assert.False(MerkleLog.Includes(leaves[i], i, size, path, leaves[i]) && size > 1);
                if (size > 1)
                    Assert.False(MerkleLog.Includes(leaves[i], (i + 1) % size, size, path, root));
                Assert.False(MerkleLog.Includes(leaves[i], i, size, [.. path, root], root));
            }
        }
    }

    [Fact]
    public void A_later_log_is_proved_to_begin_with_an_earlier_one_and_another_is_not()
    {
        for (var size = 1; size <= 20; size++)
        {
            var leaves = Enumerable.Range(0, size).Select(i => MerkleLog.Leaf([(byte)i])).ToArray();
            var root = MerkleLog.Root(leaves);
            for (var earlier = 1; earlier <= size; earlier++)
            {
                var path = MerkleLog.Consistency(earlier, leaves);
                var before = MerkleLog.Root(leaves.AsSpan(0, earlier));
                Assert.True(MerkleLog.Holds(earlier, before, size, root, path));
                Assert.False(MerkleLog.Holds(earlier, MerkleLog.Leaf([99]), size, root, path));
                Assert.False(MerkleLog.Holds(earlier, before, size, MerkleLog.Leaf([99]), path));
            }
        }
    }

    private static readonly ECDsa Key = ECDsa.Create(ECCurve.NamedCurves.nistP256);

    /// <summary>A ledger of some entries.</summary>
    private static List<LedgerEntry> Ledger(int entries, string first = "Lock 9")
    {
        var ledger = new List<LedgerEntry>();
        var previous = LedgerChain.Beginning;
        for (var n = 1; n <= entries; n++)
        {
            var entry = LedgerChain.Seal(
                n,
                new DateTimeOffset(2026, 3, 2, 9, n, 0, TimeSpan.Zero),
                "inspector",
                new PieceMoved(n == 1 ? first : $"A{n}", $"B{n}"),
                $"HM-{n:0000}",
                previous
            );
            ledger.Add(entry);
            previous = entry.Hash;
        }

        return ledger;
    }

    private static byte[][] LeavesOf(IEnumerable<LedgerEntry> ledger) =>
        [.. ledger.Select(e => MerkleLog.Leaf(e.Hash))];

    private static TreeHead Head(IReadOnlyCollection<LedgerEntry> ledger, ECDsa? by = null) =>
        new TreeHead(
            "Test works",
            ledger.Count,
            MerkleLog.Root(LeavesOf(ledger)),
            new(2026, 3, 3, 0, 0, 0, TimeSpan.Zero),
            TreeHead.FingerprintOf(by ?? Key),
            []
        ).SignedBy(by ?? Key);

    private static string Certificate(int number, int entries)
    {
        var ledger = Ledger(entries);
        return CertificateDocument.Write(
            ledger[number - 1],
            MerkleLog.Inclusion(number - 1, LeavesOf(ledger)),
            Head(ledger),
            Key.ExportSubjectPublicKeyInfoPem()
        );
    }

    [Fact]
    public void A_head_is_read_back_as_it_was_signed_and_met_by_the_ledger_that_grew_since()
    {
        var head = TreeHead.Read(Head(Ledger(5)).Json()).Value;
        Assert.True(head.IsSignedBy(Key));
        Assert.Null(head.Against(LeavesOf(Ledger(5)), Key));
        Assert.Null(head.Against(LeavesOf(Ledger(9)), Key));
    }

    [Fact]
    public void A_cut_end_a_changed_entry_a_forked_copy_and_another_hand_are_found_by_a_head()
    {
        var head = Head(Ledger(5));
        Assert.Contains("cut off", head.Against(LeavesOf(Ledger(4)), Key), StringComparison.Ordinal);
        Assert.Contains("changed", head.Against(LeavesOf(Ledger(5, first: "Lock 8")), Key), StringComparison.Ordinal);
        using var other = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        Assert.Contains("not signed", head.Against(LeavesOf(Ledger(5)), other), StringComparison.Ordinal);
        Assert.Contains(
            "not signed",
            (head with { Size = 4 }).Against(LeavesOf(Ledger(5)), Key),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("{}")]
    [InlineData("[]")]
    [InlineData("""{"format":"keralith.head/1"}""")]
    [InlineData("""{"format":"keralith.head/1","size":0,"root":"00","at":"x","signature":"!"}""")]
    public void What_is_no_head_is_told_so(string json) => Assert.False(TreeHead.Read(json).Ok);

    [Theory]
    [InlineData(1, 1)]
    [InlineData(1, 7)]
    [InlineData(4, 7)]
    [InlineData(7, 7)]
    public void A_certificate_holds_by_itself_and_by_the_works_key(int number, int entries)
    {
        var json = Certificate(number, entries);
        Assert.All(CertificateDocument.Check(json), s => Assert.Null(s.Fault));
        Assert.All(CertificateDocument.Check(json, Head(Ledger(entries)), Key.ExportSubjectPublicKeyInfoPem()), s =>
            Assert.Null(s.Fault)
        );
    }

    /// <summary>What may be done to a certificate, and the first thing that no longer holds.</summary>
    public static TheoryData<string, string> Tampered =>
        new()
        {
            { "data", "as it was sealed" },
            { "actor", "as it was sealed" },
            { "subject", "as it was sealed" },
            { "at", "as it was sealed" },
            { "previous", "as it was sealed" },
            { "code", "Its code" },
            { "number", "as it was sealed" },
            { "path", "in the ledger" },
            { "root", "in the ledger" },
            { "size", "signed" },
            { "signature", "signed" },
            { "works", "signed" },
        };

    [Theory]
    [MemberData(nameof(Tampered))]
    public void Whatever_is_changed_of_a_certificate_is_named(string what, string step)
    {
        var json = JsonNode.Parse(Certificate(3, 7))!.AsObject();
        var (entry, head) = (json["entry"]!.AsObject(), json["head"]!.AsObject());
        switch (what)
        {
            case "data":
                json["data"] = json["data"]!.GetValue<string>().Replace("B3", "B4", StringComparison.Ordinal);
                break;
            case "actor" or "subject" or "previous":
                entry[what] = what == "previous" ? new string('0', 64) : "else";
                break;
            case "at":
                entry["at"] = "2026-03-02T09:59:00.000000Z";
                break;
            case "code":
                json["code"] = "0000-0000-0000-0000";
                break;
            case "number":
                entry["number"] = 4;
                break;
            case "path":
                json["path"]![0] = new string('0', 64);
                break;
            case "root":
                head["root"] = new string('0', 64);
                break;
            case "size":
                head["size"] = 8;
                break;
            case "signature":
                head["signature"] = Convert.ToBase64String(
                    Key.SignData([1], HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence)
                );
                break;
            case "works":
                head["works"] = "Another works";
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(what), what, null);
        }

        var failed = CertificateDocument.Check(json.ToJsonString()).Where(s => s.Fault is not null).ToList();
        Assert.Contains(failed, s => s.What.Contains(step, StringComparison.Ordinal));
    }

    [Fact]
    public void A_certificate_of_another_works_or_of_a_forked_ledger_is_found_by_what_is_kept_elsewhere()
    {
        var json = Certificate(3, 7);
        using var other = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        Assert.Contains(CertificateDocument.Check(json, publicKey: other.ExportSubjectPublicKeyInfoPem()), s =>
            s.Fault == "it names another key"
        );
        Assert.Contains(CertificateDocument.Check(json, Head(Ledger(7, first: "Lock 8"))), s =>
            s.Fault?.Contains("two ledgers", StringComparison.Ordinal) == true
        );
        Assert.Contains(CertificateDocument.Check(json, Head(Ledger(8))), s =>
            s.Fault?.Contains("of 8 entries", StringComparison.Ordinal) == true
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("{}")]
    [InlineData("[1]")]
    [InlineData("""{"format":"keralith.certificate/1"}""")]
    [InlineData("""{"format":"keralith.certificate/2"}""")]
    public void What_is_no_certificate_is_told_so(string json) =>
        Assert.NotNull(Assert.Single(CertificateDocument.Check(json)).Fault);

    [Fact]
    public void A_check_says_what_it_checked()
    {
        var signed = Signed(3, "inspection.signed");
        Assert.Equal(
            "It is of HM-0003, inspected on 2026-03-02, verdict fit",
            CertificateDocument.Check(CertificateOf(signed, null))[0].What
        );
    }

    [Theory]
    [InlineData("inspection.withdrawn", "withdrawn on 2026-03-02 by inspector")]
    [InlineData("inspection.signed", "superseded by a corrected record")]
    public void A_record_that_was_superseded_says_so_by_the_entry_that_did_it(string kind, string said)
    {
        var steps = CertificateDocument.Check(CertificateOf(Signed(3, "inspection.signed"), kind));
        Assert.Contains(said, Assert.Single(steps, s => s.Fault is not null).Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("\"code\":", "\"note\":\"fit\",\"code\":", "\"note\" does not belong there")]
    [InlineData("\"code\":", "\"Code\":", "\"Code\" does not belong there")]
    [InlineData("\"actor\":", "\"verdict\":\"fit\",\"actor\":", "\"verdict\" does not belong there")]
    [InlineData("\"works\":", "\"works\":\"Other\",\"works\":", "\"works\" stands twice")]
    [InlineData("\"data\":", "\"data\":\"{}\",\"data\":", "\"data\" stands twice")]
    public void What_nothing_seals_is_refused(string there, string put, string said)
    {
        var json = Certificate(3, 7);
        Assert.Contains(there, json, StringComparison.Ordinal);
        var at = json.IndexOf(there, StringComparison.Ordinal);
        var altered = json[..at] + put + json[(at + there.Length)..];
        Assert.Contains(said, Assert.Single(CertificateDocument.Check(altered)).Fault, StringComparison.Ordinal);
    }

    [Fact]
    public void A_key_nobody_can_read_is_told_so() =>
        Assert.Equal(
            "it is no public key in PEM",
            Assert.Single(CertificateDocument.Check(Certificate(3, 7), publicKey: "no key")).Fault
        );

    [Fact]
    public void A_hash_in_capitals_is_another_writing_and_refused()
    {
        var json = JsonNode.Parse(Certificate(3, 7))!.AsObject();
        json["entry"]!["hash"] = json["entry"]!["hash"]!.GetValue<string>().ToUpperInvariant();
        Assert.NotNull(Assert.Single(CertificateDocument.Check(json.ToJsonString())).Fault);
    }

    private static readonly Guid Record = new("00000000-0000-7000-8000-000000000007");

    private static LedgerRecord Signed(int day, string kind, Guid? corrects = null)
    {
        var none = JsonDocument.Parse("{}").RootElement;
        return kind == "inspection.withdrawn"
            ? new InspectionWithdrawn(Record, new(2026, 3, 2), "fit", "Another piece")
            : new InspectionSigned(
                corrects is null ? Record : Guid.NewGuid(),
                new(2026, 3, day - 1),
                "1",
                none,
                none,
                none,
                "fit",
                null,
                null,
                null,
                [],
                new Dictionary<string, string>(),
                none,
                [],
                corrects,
                corrects is null ? null : "Another piece"
            );
    }

    private static string CertificateOf(LedgerRecord record, string? after)
    {
        var at = new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
        var first = LedgerChain.Seal(1, at, "inspector", record, "HM-0003", LedgerChain.Beginning);
        List<LedgerEntry> ledger = [first];
        if (after is not null)
            ledger.Add(
                LedgerChain.Seal(2, at.AddHours(1), "inspector", Signed(3, after, Record), "HM-0003", first.Hash)
            );
        IReadOnlyList<byte[]> Path(int at) => MerkleLog.Inclusion(at, LeavesOf(ledger));
        return CertificateDocument.Write(
            first,
            Path(0),
            Head(ledger),
            Key.ExportSubjectPublicKeyInfoPem(),
            after is null ? null : (ledger[1], Path(1))
        );
    }
}
