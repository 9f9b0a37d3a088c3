namespace SteadyLintel.Cad;

/// <summary>The versions of DXF and DWG, named by their $ACADVER.</summary>
public enum CadVersion
{
    /// <summary>Release 12 (DXF only).</summary>
    AC1009 = 1009,

    /// <summary>Release 13.</summary>
    AC1012 = 1012,

    /// <summary>Release 14.</summary>
    AC1014 = 1014,

    /// <summary>2000.</summary>
    AC1015 = 1015,

    /// <summary>2004.</summary>
    AC1018 = 1018,

    /// <summary>2007.</summary>
    AC1021 = 1021,

    /// <summary>2010.</summary>
    AC1024 = 1024,

    /// <summary>2013.</summary>
    AC1027 = 1027,

    /// <summary>2018.</summary>
    AC1032 = 1032,
}
