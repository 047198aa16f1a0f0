using System.Text.Json;

namespace Keralith.Data.Exchange;

/// <summary>Signed records out, one JSON object a line.</summary>
public sealed class RecordExport(Database database)
{
    /// <summary>Every signed inspection: its case, what is on record of it, its verdict, and what the site asked of its own.</summary>
    public Task InspectionsAsync(Stream output, CancellationToken cancel) =>
        LinesAsync(
            output,
            """
            select i.case_document,
              json_build_object(
                'inspection', i.id, 'mark', p.mark, 'kind', i.kind, 'inspectedOn', i.inspected_on, 'signedAt', i.signed_at,
                'signedBy', w.username, 'verdict', i.verdict, 'countsFrom', i.counts_from, 'corrects', f.inspection_id,
                'supersededBy', s.became, 'superseded', s.why)::text,
              i.verdict_document, coalesce(i.own_document, '[]')
            from inspection i
            join piece p on p.id = i.piece_id
            join person w on w.id = i.signed_by
            left join supersession s on s.inspection_id = i.id
            left join supersession f on f.became = i.id
            order by i.signed_at, i.id
            """,
            ["case", "record", "verdict", "own"],
            cancel
        );

    /// <summary>
    /// The ledger with its hash chain: each entry's head and its data, as hashed. Entries of form 2 are canonical by
    /// RFC 8785.
    /// </summary>
    public Task LedgerAsync(Stream output, CancellationToken cancel) =>
        LinesAsync(
            output,
            """
            select json_build_object(
                'number', number, 'at', at, 'actor', actor, 'kind', kind, 'subject', subject, 'form', form,
                'previous', encode(previous, 'hex'), 'hash', encode(hash, 'hex'))::text,
              data
            from ledger
            order by number
            """,
            ["entry", "data"],
            cancel
        );

    /// <param name="fields">What each column is called.</param>
    private async Task LinesAsync(Stream output, string sql, IReadOnlyList<string> fields, CancellationToken cancel)
    {
        await using var command = database.Command(sql);
        await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            await using (var line = new Utf8JsonWriter(output))
            {
                line.WriteStartObject();
                for (var column = 0; column < fields.Count; column++)
                {
                    line.WritePropertyName(fields[column]);
                    line.WriteRawValue(reader.GetString(column));
                }

                line.WriteEndObject();
            }

            output.WriteByte((byte)'\n');
        }
    }
}
