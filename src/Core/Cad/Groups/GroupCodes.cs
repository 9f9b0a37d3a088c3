namespace SteadyLintel.Cad;

/// <summary>Kinds of group values by code: DXF reference, "Group code value types".</summary>
public static class GroupCodes
{
    /// <summary>The kind of a code; an unknown code is text.</summary>
    public static GroupKind Kind(int code) =>
        code switch
        {
            5 or 105 => GroupKind.Handle,
            < 10 => GroupKind.Text,
            < 60 => GroupKind.Double,
            < 80 => GroupKind.Short,
            >= 90 and < 100 => GroupKind.Int,
            >= 110 and < 150 => GroupKind.Double,
            >= 160 and < 170 => GroupKind.Long,
            >= 170 and < 180 => GroupKind.Short,
            >= 210 and < 240 => GroupKind.Double,
            >= 270 and < 290 => GroupKind.Short,
            >= 290 and < 300 => GroupKind.Bool,
            >= 310 and < 320 => GroupKind.Binary,
            >= 320 and < 370 => GroupKind.Handle,
            >= 370 and < 390 => GroupKind.Short,
            >= 390 and < 400 => GroupKind.Handle,
            >= 400 and < 410 => GroupKind.Short,
            >= 420 and < 430 => GroupKind.Int,
            >= 440 and < 460 => GroupKind.Int,
            >= 460 and < 470 => GroupKind.Double,
            >= 480 and < 490 => GroupKind.Handle,
            1004 => GroupKind.Binary,
            1005 => GroupKind.Handle,
            >= 1010 and < 1060 => GroupKind.Double,
            >= 1060 and < 1071 => GroupKind.Short,
            1071 => GroupKind.Int,
            _ => GroupKind.Text,
        };
}
