namespace SteadyLintel.Cad;

/// <summary>A class of objects that the format does not number itself (CLASSES section).</summary>
public sealed class CadClass
{
    /// <summary>Its number in DWG, 500 and above; 0 when it came from DXF.</summary>
    public int Number { get; set; }

    /// <summary>The name in DXF, <c>MESH</c>.</summary>
    public string DxfName { get; set; } = "";

    /// <summary>The name in the program that made it, <c>AcDbSubDMesh</c>.</summary>
    public string ClassName { get; set; } = "";

    /// <summary>The application that knows it.</summary>
    public string Application { get; set; } = "ObjectDBX Classes";

    /// <summary>What may be done with one whose application is missing (group code 90).</summary>
    public int ProxyFlags { get; set; }

    /// <summary>How many there are (91).</summary>
    public int Instances { get; set; }

    /// <summary>Whether its application was missing when written (280).</summary>
    public bool WasProxy { get; set; }

    /// <summary>Whether it is drawn (281).</summary>
    public bool IsEntity { get; set; }
}
