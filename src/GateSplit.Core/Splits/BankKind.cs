namespace GateSplit.Core.Splits;

/// <summary>What sort of inputs a bank has.</summary>
public enum BankKind
{
    /// <summary>What a plug-in gives back inside the recorder.</summary>
    PlugInReturns,

    /// <summary>Channels of a USB connection.</summary>
    Usb,

    /// <summary>Internal buses, fed by tracks.</summary>
    Buses,
}
