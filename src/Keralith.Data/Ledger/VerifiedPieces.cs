using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>What is kept on pieces, held against what Core makes of their records.</summary>
internal static class VerifiedPieces
{
    /// <summary>What is kept on every piece against what Core makes of its facts.</summary>
    public static async Task<List<Unverified>> DifferencesAsync(Database database, CancellationToken cancel)
    {
        var trip = new Trip();
        var sites = SiteStore.Sites(trip);
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        if (sites.Value is not { } known)
            return [];
        var found = new List<Unverified>();
        await using var command = database.Command(
            $"""
            select p.mark, s.site_id, p.family, p.service_class, p.state, p.verdict, p.periodic_due, p.frequent_due, p.last_by, p.open_holds, p.maker, p.model, p.proof_due, p.proof_lacks,
              p.details->>'proofTestDue' as proof_entered, t.tested_on as proven, t.renews,
              {Derivation.StateFacts},
              {Derivation.Locked} is distinct from p.locked as mislocked,
              (select c.last_periodic from carried_over c join carried_accepted a using (piece_id)
                where c.piece_id = p.id) as report,
              array(
                select concat_ws('|', i.kind, i.verdict, i.inspected_on, coalesce(i.next_by::text, ''), coalesce(i.made_by, i.signed_by))
                from standing_inspection i where i.piece_id = p.id order by i.counts_seq) as records
            from piece p
            join store s on s.id = p.store_id
            {Derivation.LastProof}
            order by p.mark
            """
        );
        await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            var mark = reader.Get<string>("mark");
            try
            {
                found.AddRange(
                    Differences(reader, known.Of(reader.Get<int>("site_id"))).Select(d => new Unverified(mark, d))
                );
            }
            catch (Exception e) when (PieceRows.IsUnreadable(e))
            {
                found.Add(new(mark, $"Its records can't be read: {e.Message}"));
            }
        }

        return found;
    }

    private static IEnumerable<string> Differences(NpgsqlDataReader r, Site site)
    {
        var records = r.Get<string[]>("records").Select(Record).ToList();
        var report = r.ValueOrNull<DateOnly>("report");
        var holds = r.Get<int>("holds");
        var state = Derivation.StateFrom(
            r,
            report is not null || records.Any(i => i is { IsFull: true, IsClean: true })
        );
        var family = GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family"));
        var derived = Derived.Of(
            new(family, Code.Parse<ServiceClass>(r.Get<string>("service_class")), records, report, null, null)
            {
                Proof = Derivation.ProofFrom(r) with
                {
                    Months = site.ProofMonthsOf(family, r.TextOrNull("maker"), r.TextOrNull("model")),
                },
            },
            site.Books
        );
        if (r.Get<string>("state") != Code.Of(state))
            yield return $"It is kept as {r.Get<string>("state")}; its records say {Code.Of(state)}.";
        if (r.Get<bool>("mislocked"))
            yield return "Whether it is kept as evidence is kept otherwise than its records say.";
        if (r.Get<int>("open_holds") != holds)
            yield return $"It is kept with {r.Get<int>("open_holds")} open holds; its records say {holds}.";
        if (r.TextOrNull("verdict") != (derived.Verdict is { } verdict ? Code.Of(verdict) : null))
            yield return $"It is kept under the verdict {r.TextOrNull("verdict") ?? "none"}; its records say otherwise.";
        if (r.ValueOrNull<Guid>("last_by") != derived.LastBy)
            yield return "It is kept as last inspected by somebody else than its records say.";

        // Books changed since it was retired move nothing of it any more.
        if (state.IsRetired())
            yield break;
        if (r.ValueOrNull<DateOnly>("periodic_due") != derived.Due.Periodic)
            yield return $"It is kept as due on {r.ValueOrNull<DateOnly>("periodic_due"):yyyy-MM-dd}; its records say {derived.Due.Periodic:yyyy-MM-dd}.";
        if (r.ValueOrNull<DateOnly>("frequent_due") != derived.Due.Frequent)
            yield return $"Its frequent inspection is kept as due on {r.ValueOrNull<DateOnly>("frequent_due"):yyyy-MM-dd}; its records say {derived.Due.Frequent:yyyy-MM-dd}.";
        if (
            r.ValueOrNull<DateOnly>("proof_due") != derived.Proof.Until
            || r.Get<bool>("proof_lacks") != derived.Proof.Lacks
        )
            yield return $"Its proof test is kept as holding until {r.ValueOrNull<DateOnly>("proof_due"):yyyy-MM-dd}; its records say {derived.Proof.Until:yyyy-MM-dd}.";
    }

    private static SignedInspection Record(string row)
    {
        var parts = row.Split('|');
        return new(
            Code.Parse<InspectionKind>(parts[0]),
            Code.Parse<VerdictKind>(parts[1]),
            default,
            Guid.Parse(parts[4])
        )
        {
            InspectedOn = DateOnly.ParseExact(parts[2], "yyyy-MM-dd"),
            NextBy = parts[3].Length == 0 ? null : DateOnly.ParseExact(parts[3], "yyyy-MM-dd"),
        };
    }
}
