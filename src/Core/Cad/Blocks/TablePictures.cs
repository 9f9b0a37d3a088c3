namespace SteadyLintel.Cad;

/// <summary>Puts inserts of their pictures where tables are, for DWG, where a table goes only back into the version it came
/// from.</summary>
public static class TablePictures
{
    /// <summary>Replaces every table that has a picture.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="version">The version it is to be written in.</param>
    /// <returns>A finding for each.</returns>
    public static IReadOnlyList<CadFinding> Replace(Drawing drawing, CadVersion version)
    {
        var findings = new List<CadFinding>();
        foreach (var block in drawing.Blocks)
        {
            for (int i = 0; i < block.Entities.Count; i++)
            {
                if (
                    block.Entities[i] is not Table table
                    || table.Bits?.Version == version
                    || drawing.Blocks[table.Block] is null
                )
                    continue;
                var picture = table.Shown();
                (picture.Handle, picture.Owner, picture.LineTypeScale, picture.LineWeight, picture.Invisible) = (
                    drawing.NextHandle(),
                    block.Handle,
                    table.LineTypeScale,
                    table.LineWeight,
                    table.Invisible
                );
                block.Entities[i] = picture;
                findings.Add(
                    new CadFinding(
                        "CAD-TABLE-PICTURE",
                        $"handle {table.Handle}",
                        $"The table {table.Handle} of {table.Size.Rows} rows and {table.Size.Columns} columns became an insert of its picture; its cells are texts there."
                    )
                );
            }
        }

        return findings;
    }
}
