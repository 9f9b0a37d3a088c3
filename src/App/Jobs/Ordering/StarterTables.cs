using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A table to begin with.</summary>
/// <param name="Key">Its word in addresses.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Name">What it is called when it is kept.</param>
/// <param name="Says">What it is after.</param>
/// <param name="Lines">Its lines, headings first.</param>
public sealed record StarterTable(string Key, LibraryKind Kind, string Name, string Says, IReadOnlyList<string> Lines)
{
    /// <summary>The table as CSV.</summary>
    public byte[] ToCsv() => TableFile.WriteCsv(Lines.Select(l => (IReadOnlyList<object?>)[.. l.Split(',')]));
}

/// <summary>Tables to begin with; each becomes the job's own once it is kept.</summary>
public static class StarterTables
{
    private const string Layers = "class,predefined type,property,value,layer,colour,line type,weight";

    /// <summary>All of them.</summary>
    public static IReadOnlyList<StarterTable> All { get; } =
    [
        // ISO 13567-2: agent (2), element (6), presentation (2); hyphens fill what is not used. Element codes after the common table of
        // building elements that many national tables number alike (21 outer walls, 22 inner walls …). From memory.
        new(
            "iso",
            LibraryKind.Layers,
            "Layers after ISO 13567-2",
            "agent, element, presentation, as ISO 13567-2 parts a name; codes of elements from memory",
            [
                Layers,
                "IfcWall,,Pset_WallCommon.IsExternal,True,A-21----E-,7,,0.5",
                "IfcWall,,,,A-22----E-,7,,0.35",
                "IfcCurtainWall,,,,A-21-C--E-,4,,0.35",
                "IfcSlab,,,,A-23----E-,8,,0.25",
                "IfcStair,,,,A-24----E-,3,,0.25",
                "IfcStairFlight,,,,A-24----E-,3,,0.25",
                "IfcRoof,,,,A-27----E-,6,,0.35",
                "IfcColumn,,,,S-28-C--E-,1,,0.5",
                "IfcBeam,,,,S-28-B--E-,1,,0.35",
                "IfcMember,,,,S-28-M--E-,1,,0.25",
                "IfcFooting,,,,S-16----E-,9,,0.35",
                "IfcWindow,,,,A-31----E-,5,,0.25",
                "IfcDoor,,,,A-32----E-,2,,0.25",
                "IfcRailing,,,,A-34----E-,3,,0.18",
                "IfcCovering,,,,A-43----E-,8,,0.18",
                "IfcPipeSegment,,,,M-53----E-,5,,0.25",
                "IfcPipeFitting,,,,M-53----E-,5,,0.25",
                "IfcDuctSegment,,,,M-57----E-,4,,0.25",
                "IfcDuctFitting,,,,M-57----E-,4,,0.25",
                "IfcFlowTerminal,,,,M-57-T--E-,6,,0.18",
                "IfcFurnishingElement,,,,A-72----E-,9,,0.13",
                "IfcSpace,,,,A-90----E-,8,DASHED,0.13",
                "*,,,,A-99----E-,8,,0.18",
            ]
        ),
        // Discipline, major, minor: common practice in offices that part names so.
        new(
            "discipline",
            LibraryKind.Layers,
            "Layers by discipline",
            "discipline-major-minor, as is common practice",
            [
                Layers,
                "IfcWall,,Pset_WallCommon.IsExternal,True,A-WALL-EXTR,7,,0.5",
                "IfcWall,,,,A-WALL-INTR,7,,0.35",
                "IfcCurtainWall,,,,A-GLAZ-WALL,4,,0.35",
                "IfcSlab,,,,A-FLOR-SLAB,8,,0.25",
                "IfcStair,,,,A-FLOR-STRS,3,,0.25",
                "IfcStairFlight,,,,A-FLOR-STRS,3,,0.25",
                "IfcRoof,,,,A-ROOF,6,,0.35",
                "IfcColumn,,,,S-COLS,1,,0.5",
                "IfcBeam,,,,S-BEAM,1,,0.35",
                "IfcMember,,,,S-BRAC,1,,0.25",
                "IfcFooting,,,,S-FNDN,9,,0.35",
                "IfcWindow,,,,A-GLAZ,5,,0.25",
                "IfcDoor,,,,A-DOOR,2,,0.25",
                "IfcRailing,,,,A-FLOR-HRAL,3,,0.18",
                "IfcCovering,,,,A-CLNG,8,,0.18",
                "IfcPipeSegment,,,,P-PIPE,5,,0.25",
                "IfcPipeFitting,,,,P-PIPE-FITT,5,,0.25",
                "IfcDuctSegment,,,,M-DUCT,4,,0.25",
                "IfcDuctFitting,,,,M-DUCT-FITT,4,,0.25",
                "IfcFlowTerminal,,,,M-DIFF,6,,0.18",
                "IfcFurnishingElement,,,,A-FURN,9,,0.13",
                "IfcSpace,,,,A-AREA,8,DASHED,0.13",
                "*,,,,A-ELEM-OTHR,8,,0.18",
            ]
        ),
        new(
            "rooms",
            LibraryKind.Classes,
            "What bounds rooms",
            "for an acoustician: what bounds rooms is included, terrain and pipes are left out",
            [
                "class,predefined type,property,value,to",
                "IfcGeographicElement,,,,do not send",
                "IfcPipeSegment,,,,do not send",
                "IfcPipeFitting,,,,do not send",
                "IfcDuctSegment,,,,do not send",
                "IfcDuctFitting,,,,do not send",
                "IfcFurnishingElement,,,,do not send",
                "IfcRailing,,,,do not send",
            ]
        ),
        new(
            "names",
            LibraryKind.Names,
            "Names",
            "the receiver's names of storeys, materials, types and sections; matched below",
            ["kind,from,to", "storey,,01"]
        ),
        new(
            "properties",
            LibraryKind.Properties,
            "Properties",
            "which properties are included; * means any",
            ["set,property,as set,as,blanks", "Pset_*,*,,,", "Qto_*,*,,,out", "Lintel_Computed,*,,,"]
        ),
    ];
}
